/** To the round of some tasks, as it would be walked. */
import { LinkButton } from "../ui/LinkButton";

export function RoundLink({ slug, tasks, label, primary }: { slug: string; tasks: readonly string[]; label: string; primary?: boolean }) {
  const parts = tasks.map((t) => `part=${encodeURIComponent(t)}`).join("&");
  return (
    <div>
      <LinkButton type={primary ? "primary" : "default"} to={`/${slug}/round?scope=own&${parts}`}>
        {label}
      </LinkButton>
    </div>
  );
}
