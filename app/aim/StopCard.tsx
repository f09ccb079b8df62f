/** In the place of whatever would be fired next, while something speaks against it. */
import { Block } from "../ui/Block";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

export function StopCard({ loaded: { slug, openRound }, stop }: { loaded: Loaded; stop: NonNullable<Loaded["stop"]> }) {
  return (
    <Block strong>
      <p className="card-lead">
        Do not fire: {stop.what}. {stop.until}
      </p>
      <LinkButton type="primary" to={openRound?.apart ? `/${slug}/round/${openRound.id}` : `/${slug}/today`}>
        {openRound?.apart ? "To the open round" : "What to do"}
      </LinkButton>
    </Block>
  );
}
