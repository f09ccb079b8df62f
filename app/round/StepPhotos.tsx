/** Photos of a step: those kept, those still waiting for the network, and what went wrong with the last one. */
export function StepPhotos({
  kept,
  waiting,
  problem,
}: {
  kept: readonly string[];
  waiting: readonly { readonly id: string; readonly preview: string }[];
  problem: string | undefined;
}) {
  if (kept.length + waiting.length === 0 && !problem) return null;
  return (
    <div className="row tight photos">
      {kept.map((hash, i) => (
        <a key={hash} href={`/photos/${hash}`} target="_blank" rel="noreferrer">
          <img src={`/photos/${hash}`} alt={`${i + 1} of this step`} />
        </a>
      ))}
      {waiting.map((w) => (
        <figure key={w.id}>
          <img src={w.preview} alt="waiting to be sent" />
          <figcaption className="small soft">waiting</figcaption>
        </figure>
      ))}
      {problem ? (
        <p className="hot" role="alert">
          {problem}
        </p>
      ) : null}
    </div>
  );
}
