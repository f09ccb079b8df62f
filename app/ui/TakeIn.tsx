import { Button, Progress, Upload } from "antd";
import { useEffect, useRef, useState } from "react";
import { useFetcher, useNavigate } from "react-router";
import { ChosenEarly } from "./form/ChosenEarly";
import { Notice } from "./Notice";

type Looked = { id: string; words: string[]; changes: boolean } | { problems: { line: number; column: number; words: string }[] };

/** A file is sent to be looked at; what it would change is said before anything is taken in. `then` is where to go when it is in. */
export function TakeIn({ slug, then }: { slug: string; then?: string }) {
  const [looked, setLooked] = useState<Looked>();
  const [share, setShare] = useState<number>();
  const [lost, setLost] = useState(false);
  const running = useRef<XMLHttpRequest>(null);
  const send = (file: File) => {
    setLooked(undefined);
    setLost(false);
    setShare(0);
    const request = new XMLHttpRequest();
    running.current = request;
    request.open("POST", `/${slug}/exchange/upload`);
    request.responseType = "json";
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (e) => setShare(e.lengthComputable ? e.loaded / e.total : 0);
    request.onload = () => {
      setShare(undefined);
      const answer = request.response as Looked | null;
      if (answer && typeof answer === "object") setLooked(answer);
      else setLost(true);
    };
    request.onerror = () => {
      setShare(undefined);
      setLost(true);
    };
    request.onabort = () => setShare(undefined);
    request.send(file);
    return false;
  };
  return (
    <div className="stack">
      <ChosenEarly tell={send}>
        <Upload beforeUpload={send} showUploadList={false} accept=".json,.csv,.zip,.txt">
          <Button disabled={share !== undefined}>Choose a file…</Button>
        </Upload>
      </ChosenEarly>
      {share === undefined ? null : (
        <div className="row" role="status">
          <Progress percent={Math.round(100 * share)} aria-label="Sent" />
          <span>{share < 1 ? "Sending" : "Looking at it"}</span>
          <Button onClick={() => running.current?.abort()}>Cancel</Button>
        </div>
      )}
      {lost ? <Notice kind="problem">No answer from the server. Nothing was taken in; choose the file again.</Notice> : null}
      {looked && "problems" in looked ? (
        <Notice kind="problem">
          <b>Nothing was taken in.</b>
          <ul>
            {looked.problems.map((p) => (
              <li key={`${p.line} ${p.column} ${p.words}`}>
                Line {p.line}, column {p.column}: {p.words}
              </li>
            ))}
          </ul>
        </Notice>
      ) : null}
      {looked && "id" in looked ? (
        <Taking key={looked.id} slug={slug} file={looked.id} words={looked.words} changes={looked.changes} then={then} />
      ) : null}
    </div>
  );
}

/** What `exchange/takeIn` answers. */
type Taken = { said?: string; stopped?: true; errors?: Record<string, string>; notSaved?: string };

const ASKED_EACH_MS = 300;

/** What was looked at, taken in at the press of a button; meanwhile how far it is, and a way to stop it. */
function Taking({
  slug,
  file,
  words,
  changes,
  then,
}: {
  slug: string;
  file: string;
  words: string[];
  changes: boolean;
  then: string | undefined;
}) {
  const taking = useFetcher<Taken>();
  const stopping = useFetcher();
  const go = useNavigate();
  const [share, setShare] = useState(0);
  const address = `/${slug}/exchange/take-in`;
  const busy = taking.state !== "idle";
  const said = taking.data?.said;
  useEffect(() => {
    if (!busy) return;
    const asking = setInterval(async () => {
      const answer = await fetch(`${address}?file=${file}`).catch(() => undefined);
      if (answer?.ok) setShare(((await answer.json()) as { share: number | null }).share ?? 0);
    }, ASKED_EACH_MS);
    return () => clearInterval(asking);
  }, [busy, address, file]);
  useEffect(() => {
    if (said !== undefined && then !== undefined) go(then);
  }, [said, then, go]);
  if (busy)
    return (
      <div className="row" role="status">
        <Progress percent={Math.round(100 * share)} aria-label="Taken in" />
        <span>Taking it in</span>
        <Button onClick={() => stopping.submit({ intent: "stop", file }, { method: "post", action: address })}>Stop</Button>
      </div>
    );
  if (said !== undefined) return <Notice kind="said">{said}</Notice>;
  if (taking.data?.stopped)
    return (
      <Notice kind="doubt" role="status">
        Stopped. Nothing of it was taken in.
      </Notice>
    );
  const problem = taking.data?.notSaved ?? taking.data?.errors?.[""];
  return (
    <>
      {words.map((w) => (
        <p key={w}>{w}</p>
      ))}
      {problem === undefined ? null : <Notice kind="problem">{problem}</Notice>}
      {changes ? (
        <Button type="primary" onClick={() => taking.submit({ intent: "take-in", file }, { method: "post", action: address })}>
          Take it in
        </Button>
      ) : null}
    </>
  );
}
