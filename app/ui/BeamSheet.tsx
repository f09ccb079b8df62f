/** What is known of one station of the beam line, with what can be done to it. */
import { Descriptions, Drawer } from "antd";
import type { BeamLineData, BeamStation } from "#services/machine/beamLine";
import { Posted, RequestKey, Submit } from "./form/Posted";
import { LinkButton } from "./LinkButton";

export function BeamSheet({ data, shown, onClose }: { data: BeamLineData; shown: BeamStation; onClose: () => void }) {
  return (
    <Drawer open onClose={onClose} title={shown.name} placement="left" size={380}>
      <Descriptions
        column={1}
        size="small"
        layout="vertical"
        colon={false}
        items={shown.card.map((line) => ({ key: line.term, label: line.term, children: line.text }))}
      />
      {shown.photo ? <img src={`/photos/${shown.photo}`} alt={`${shown.name}, the right way round`} className="card-photo" /> : null}
      <div className="row">
        {shown.cleanable ? (
          <Posted action={`/${data.slug}/round`}>
            <RequestKey value={`${data.key}-${shown.id}`} />
            <input type="hidden" name="part" value={shown.id} />
            <Submit type="primary">Clean it now</Submit>
          </Posted>
        ) : null}
        {shown.replace ? (
          <Posted action={`/${data.slug}/round`}>
            <RequestKey value={`${data.key}-${shown.id}-new`} />
            <input type="hidden" name="part" value={shown.replace} />
            <input type="hidden" name="title" value={`${shown.name}: replacement`} />
            <Submit>Put a new one in</Submit>
          </Posted>
        ) : null}
        <LinkButton to={`/${data.slug}/log?kind=grade&station=${shown.id}`}>Report what I see</LinkButton>
        <LinkButton to={`/${data.slug}/log?kind=service&part=${shown.id}`}>It was done already</LinkButton>
        <LinkButton type="link" to={`/${data.slug}/workshop?tab=path&station=${shown.id}`}>
          Change what is known
        </LinkButton>
      </div>
    </Drawer>
  );
}
