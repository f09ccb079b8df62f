/** What a step shows beside its words: a drawing, the owner's own photo of the way round, what may touch the part and what never. */
import type { Step } from "#core/rounds";
import { Drawing } from "../ui/Drawing";

export function StepPicture({ step }: { step: Step }) {
  if (!(step.drawing || step.agents || step.refused || step.photos)) return null;
  return (
    <div className="picture">
      {step.drawing ? <Drawing id={step.drawing} /> : null}
      {step.photos?.map((hash) => (
        <img key={hash} className="drawing way-photo" src={`/photos/${hash}`} alt="The right way round, as you photographed it" />
      ))}
      {step.agents || step.refused ? (
        <ul className="stack close" aria-label="What may touch it, and what never">
          {step.agents?.map((a) => (
            <li key={a.id} className="agent">
              <b>
                <span aria-hidden="true">✓ </span>
                <span className="sr">allowed: </span>
                {a.name}
              </b>
              {a.missing ? <span className="hot"> not on your shelf</span> : null}
              {a.how ? <span className="small soft"> {a.how}</span> : null}
            </li>
          ))}
          {step.refused?.map((r) => (
            <li key={r.name} className="agent no">
              <b>
                <span aria-hidden="true">✕ </span>
                <span className="sr">never: </span>
                <s>{r.name}</s>
              </b>
              <span className="small"> {r.because}</span>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
