/** A photo in a form: taken or picked here, kept at once, and posted with the form by its hash. */
import { Button, Upload } from "antd";
import { useState } from "react";
import { Notice } from "../Notice";
import { sendPhoto, shrinkPhoto } from "../photos";
import { ChosenEarly } from "./ChosenEarly";
import { useField } from "./state";

export function PhotoField({
  name,
  label,
  alt,
  initial,
}: {
  name: string;
  /** Of the button that takes the first one. */
  label: string;
  alt: string;
  initial?: string | undefined;
}) {
  const { typed, error } = useField(name);
  const [hash, setHash] = useState(typed ?? initial ?? "");
  const [problem, setProblem] = useState(error);
  const [busy, setBusy] = useState(false);
  const take = async (picked: File) => {
    setBusy(true);
    setProblem(undefined);
    try {
      const answer = await sendPhoto(await shrinkPhoto(picked));
      if ("hash" in answer) setHash(answer.hash);
      else setProblem(answer.problem);
    } catch (e) {
      setProblem(e instanceof Error && !(e instanceof TypeError) ? e.message : "No network: the photo was not sent.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="row">
      <input type="hidden" name={name} value={hash} />
      {hash ? <img src={`/photos/${hash}`} alt={alt} className="way-thumb" /> : null}
      <ChosenEarly tell={(file) => void take(file)}>
        <Upload
          accept="image/*"
          showUploadList={false}
          disabled={busy}
          // It is sent by us, as the bytes it is, and the form carries its hash.
          beforeUpload={(file) => {
            void take(file);
            return false;
          }}
        >
          <Button disabled={busy}>{busy ? "Sending…" : hash ? "Another photo" : label}</Button>
        </Upload>
      </ChosenEarly>
      {hash ? (
        <Button type="link" onClick={() => setHash("")}>
          Without photo
        </Button>
      ) : null}
      {problem ? <Notice kind="problem">{problem}</Notice> : null}
    </div>
  );
}
