/** The plan's weeks, a row each, with the rounds on their days: a round of this machine is dragged to another day, or moved by its card. */
import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  pointerWithin,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { CSS } from "@dnd-kit/utilities";
import { Link, useNavigation, useSubmit } from "react-router";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

type Day = Loaded["weeks"][number]["days"][number];
type OnDay = Day["rounds"][number];

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"] as const;
/** A finger rests so long before it drags, and a pointer moves so far. */
const REST_MS = 250;
const APART_PX = 6;

export function Calendar({ d }: { d: Loaded }) {
  const submit = useSubmit();
  const busy = useNavigation().state !== "idle";
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: APART_PX } }),
    useSensor(TouchSensor, { activationConstraint: { delay: REST_MS, tolerance: APART_PX } }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const from = active.data.current?.date as string | undefined;
    if (!over || from === undefined || over.id === from) return;
    void submit({ intent: "move", from, to: String(over.id) }, { method: "post", preventScrollReset: true });
  };
  return (
    <section aria-label="Rounds of the next sixty days">
      <DndContext id="plan" sensors={sensors} collisionDetection={pointerWithin} onDragStart={ignoreNextClick} onDragEnd={drop}>
        <table className={busy ? "plan-weeks busy" : "plan-weeks"}>
          <thead>
            <tr>
              <th scope="col">
                <span className="sr">Week of</span>
              </th>
              {WEEKDAYS.map((w) => (
                <th key={w} scope="col">
                  {w}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {d.weeks.map((week) => (
              <tr key={week.name}>
                <th scope="row">{week.name}</th>
                {week.days.map((day) => (
                  <Cell key={day.date} day={day} chosen={d.chosen?.date} />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </DndContext>
      <p className="soft small">
        Filled: panels come off. Outlined: nothing but the head. Dashed: another machine. Hatched: closed. Drag a round to another day, or
        move it on its card.
      </p>
    </section>
  );
}

/** Letting go of a round is no click on it: before anything else hears of it, it leads nowhere. */
function ignoreNextClick(): void {
  const hear = (event: MouseEvent) => event.preventDefault();
  window.addEventListener("click", hear, { capture: true, once: true });
  window.addEventListener("pointerup", () => setTimeout(() => window.removeEventListener("click", hear, { capture: true }), CLICK_MS), {
    once: true,
  });
}
const CLICK_MS = 100;

function Cell({ day, chosen }: { day: Day; chosen: string | undefined }) {
  const { setNodeRef, isOver } = useDroppable({ id: day.date, disabled: day.isClosed || day.isOver });
  const kind = [day.isOver ? "over" : "", day.isClosed ? "closed" : "", day.isToday ? "today" : "", isOver ? "under" : ""].filter(Boolean);
  return (
    <td ref={setNodeRef} className={kind.join(" ")} aria-current={day.isToday ? "date" : undefined}>
      <span className={day.isToday ? "plan-date" : "sr"}>{day.isToday ? "today" : day.name}</span>
      {day.isClosed ? <span className="sr">closed</span> : null}
      {day.rounds.map((r) => (
        <Chip key={r.slug} round={r} date={day.date} isChosen={r.isOwn && day.date === chosen} />
      ))}
    </td>
  );
}

function Chip({ round, date, isChosen }: { round: OnDay; date: string; isChosen: boolean }) {
  const { listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: `${round.slug} ${date}`,
    data: { date },
    disabled: !round.isOwn,
  });
  const look = ["plan-chip", round.opens ? "opens" : "", round.isOwn ? "" : "other", isChosen ? "chosen" : "", isDragging ? "dragged" : ""];
  const to = round.isOwn ? `?round=${date}` : `/${round.slug}/plan?round=${date}`;
  return (
    <Link
      ref={round.isOwn ? setNodeRef : undefined}
      to={to}
      draggable={false}
      preventScrollReset
      className={look.filter(Boolean).join(" ")}
      style={transform ? { transform: CSS.Translate.toString(transform) } : undefined}
      aria-current={isChosen ? "true" : undefined}
      aria-label={`${round.machine}, ${round.minutes} minutes${round.opens ? ", panels come off" : ""}${round.isMoved ? ", moved by you" : ""}`}
      {...(round.isOwn ? listeners : {})}
    >
      {round.isOwn ? "" : `${round.machine.slice(0, 1)} `}
      {round.minutes}
      {round.isOwn ? <span className="wide"> min</span> : null}
      {round.isMoved ? <span aria-hidden="true"> ⇥</span> : null}
    </Link>
  );
}
