/** The path as a list to put in order: by dragging, by the arrow keys on a handle, or by the buttons beside it. */

import ArrowDownOutlined from "@ant-design/icons/es/icons/ArrowDownOutlined";
import ArrowUpOutlined from "@ant-design/icons/es/icons/ArrowUpOutlined";
import HolderOutlined from "@ant-design/icons/es/icons/HolderOutlined";
import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { restrictToVerticalAxis } from "@dnd-kit/modifiers";
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Button } from "antd";
import { useEffect, useState } from "react";
import { Form, Link, useSubmit } from "react-router";
import { Submit } from "../ui/form/Posted";

export interface PathRow {
  readonly id: string;
  readonly name: string;
  readonly what: string;
  readonly how: string;
}

export function PathEditor({
  rows,
  madeFrom,
  chosen,
  addable,
  hidden,
}: {
  rows: readonly PathRow[];
  /** The order the rows are in, as the server knows it. */
  madeFrom: string;
  chosen: string | undefined;
  addable: readonly { readonly role: string; readonly name: string }[];
  hidden: readonly { readonly id: string; readonly name: string }[];
}) {
  const submit = useSubmit();
  const saved = rows.map((r) => r.id).join(",");
  const [order, setOrder] = useState(saved);
  // What the server says counts: a refused order goes back to where it was.
  useEffect(() => setOrder(saved), [saved]);
  const ids = order.split(",").filter((id) => rows.some((r) => r.id === id));
  const shown = [...ids.flatMap((id) => rows.find((r) => r.id === id) ?? []), ...rows.filter((r) => !ids.includes(r.id))];
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moveTo = (from: number, to: number) => {
    if (to < 0 || to >= shown.length || from === to) return;
    const next = arrayMove([...shown], from, to)
      .map((r) => r.id)
      .join(",");
    setOrder(next);
    void submit({ intent: "order", order: next, madeFrom }, { method: "post", preventScrollReset: true }).finally(() => setOrder(""));
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over) return;
    moveTo(
      shown.findIndex((r) => r.id === active.id),
      shown.findIndex((r) => r.id === over.id),
    );
  };
  return (
    <div className="stack">
      <DndContext id="path" sensors={sensors} collisionDetection={closestCenter} modifiers={[restrictToVerticalAxis]} onDragEnd={onDragEnd}>
        <SortableContext items={shown.map((r) => r.id)} strategy={verticalListSortingStrategy}>
          <ol className="stack close" aria-label="The beam path, from the tube to the work">
            {shown.map((row, i) => (
              <Row key={row.id} row={row} chosen={row.id === chosen} onUp={() => moveTo(i, i - 1)} onDown={() => moveTo(i, i + 1)} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <div className="row">
        {addable.map((a) => (
          <Form method="post" key={a.role} preventScrollReset>
            <input type="hidden" name="intent" value="add" />
            <Submit name="role" value={a.role}>
              Add {a.name}
            </Submit>
          </Form>
        ))}
      </div>
      {hidden.length > 0 ? (
        <section>
          <h2 className="small-title">Taken off</h2>
          <ul className="lines">
            {hidden.map((h) => (
              <li key={h.id} className="between">
                <span>{h.name}</span>
                <Form method="post" preventScrollReset>
                  <input type="hidden" name="intent" value="restore" />
                  <Submit name="station" value={h.id} type="link">
                    Bring back
                  </Submit>
                </Form>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </div>
  );
}

function Row({ row, chosen, onUp, onDown }: { row: PathRow; chosen: boolean; onUp: () => void; onDown: () => void }) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({ id: row.id });
  return (
    <li
      ref={setNodeRef}
      className={`path-row${chosen ? " chosen" : ""}${isDragging ? " dragging" : ""}`}
      style={{ transform: CSS.Transform.toString(transform), transition }}
    >
      <button type="button" className="handle" ref={setActivatorNodeRef} {...attributes} {...listeners} aria-label={`Move ${row.name}`}>
        <HolderOutlined aria-hidden="true" />
      </button>
      <Link to={`?tab=path&station=${row.id}`} className="path-name" preventScrollReset aria-current={chosen ? "true" : undefined}>
        <b>{row.name}</b>
        <span className="soft small">{[row.what, row.how].filter(Boolean).join(" · ")}</span>
      </Link>
      <Button type="text" icon={<ArrowUpOutlined />} onClick={onUp} aria-label={`${row.name} up`} />
      <Button type="text" icon={<ArrowDownOutlined />} onClick={onDown} aria-label={`${row.name} down`} />
    </li>
  );
}
