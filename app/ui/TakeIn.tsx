import { Button, Progress, Upload } from "antd";
import { useRef, useState } from "react";
import { Form } from "react-router";
import { Submit } from "./form/Posted";
import { Notice } from "./Notice";

type Looked = { id: string; words: string[]; changes: boolean } | { problems: { line: number; column: number; words: string }[] };

/** A file is sent to be looked at; what it would change is said before anything is taken in. */
export function TakeIn({ slug }: { slug: string }) {
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
      <Upload beforeUpload={send} showUploadList={false} accept=".json,.csv,.zip,.txt">
        <Button disabled={share !== undefined}>Choose a file…</Button>
      </Upload>
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
        <Form method="post" className="stack" preventScrollReset onSubmit={() => setLooked(undefined)}>
          <input type="hidden" name="intent" value="take-in" />
          <input type="hidden" name="file" value={looked.id} />
          {looked.words.map((w) => (
            <p key={w}>{w}</p>
          ))}
          {looked.changes ? <Submit type="primary">Take it in</Submit> : null}
        </Form>
      ) : null}
    </div>
  );
}
