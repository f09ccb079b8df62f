/** The foot of a step, within reach of a thumb: back, photo, timer, note, skip, and the one large button on. */
import { Button } from "antd";
import { useNavigation } from "react-router";
import type { Route } from "./+types/run";
import { canKeepPages } from "./offline";
import { PROOF_FORM } from "./proofForm";
import { clock } from "./Timers";
import type { Hold, Running } from "./useRunner";

type Loaded = Route.ComponentProps["loaderData"];

const HELD: { readonly [H in Exclude<Hold, undefined | "proof">]: string } = {
  grade: "Say its condition",
  choice: "Say what you saw",
  drying: "Still drying",
  tick: "Tick it first",
};

export function Foot({ running: r, data }: { running: Running; data: Loaded }) {
  const busy = useNavigation().state !== "idle";
  return (
    <div className="run-foot">
      <Button size="large" onClick={() => r.move(r.at - 1)} disabled={r.at === 0}>
        Back
      </Button>
      {r.hold === "proof" && r.noFire !== undefined ? null : r.hold === "proof" ? (
        <Button
          type="primary"
          size="large"
          htmlType="submit"
          form={PROOF_FORM}
          className="on"
          disabled={busy || r.waiting > 0 || r.missing.length > 0}
        >
          Close with this test
        </Button>
      ) : (
        <>
          <Aside running={r} />
          <Button type="primary" size="large" className="on" onClick={r.done} disabled={r.hold !== undefined}>
            {r.hold === undefined ? "Done, next" : HELD[r.hold]} <kbd>Space</kbd>
          </Button>
        </>
      )}
      <Kept running={r} data={data} />
    </div>
  );
}

/** What may be done at a step besides doing it. */
function Aside({ running: r }: { running: Running }) {
  const { step } = r;
  const toggle = (what: "note" | "skip" | "end") => r.setAsking(r.asking === what ? undefined : what);
  return (
    <>
      <Button size="large" onClick={() => r.camera.current?.click()}>
        Photo <kbd>P</kbd>
      </Button>
      <input
        ref={r.camera}
        type="file"
        accept="image/*"
        capture="environment"
        className="sr"
        tabIndex={-1}
        aria-label="Photo of this step"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void r.photos.add(step.id, file);
          e.target.value = "";
        }}
      />
      {step.timer ? (
        <Button size="large" onClick={r.startTimer}>
          {r.left === 0 ? "again" : clock(r.left ?? step.timer.seconds)} {step.timer.name} <kbd>T</kbd>
        </Button>
      ) : null}
      <Button size="large" onClick={() => toggle("note")} aria-expanded={r.asking === "note"}>
        Note
      </Button>
      {r.skippable ? (
        <Button size="large" onClick={() => toggle("skip")} aria-expanded={r.asking === "skip"}>
          <span>
            Skip<span className="only-wide">, because…</span>
          </span>
        </Button>
      ) : (
        <Button size="large" onClick={() => toggle("end")} aria-expanded={r.asking === "end"}>
          End the round
        </Button>
      )}
    </>
  );
}

/** Whether what was answered is kept, and what waits here for the network. */
function Kept({ running: r, data }: { running: Running; data: Loaded }) {
  return (
    <span className={r.link === "up" ? "saved soft small" : "saved hot small"} role="status">
      {r.link === "signed-out" ? (
        <a href={`/sign-in?to=/${data.slug}/round/${data.id}`}>Sign in again: {r.waiting} answers wait here</a>
      ) : r.link === "down" ? (
        `no network: ${r.waiting === 0 ? "answers will wait here" : `${r.waiting} waiting here`}${canKeepPages() ? "" : ". Do not reload this page: it comes back only with the network"}`
      ) : r.waiting > 0 || r.photos.waiting.length > 0 ? (
        "saving…"
      ) : Object.keys(r.answers).length > 0 ? (
        "saved"
      ) : (
        ""
      )}
    </span>
  );
}
