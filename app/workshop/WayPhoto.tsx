/** The owner's own photo of which way round a part goes: taken or picked here, kept at once, posted with the station's form. */
import { Button, Upload } from "antd";
import { useState } from "react";
import { useField } from "../ui/form/state";
import { Notice } from "../ui/Notice";
import { sendPhoto, shrinkPhoto } from "../ui/photos";

const NAME = "wayRoundPhoto";

export function WayPhoto({ initial }: { initial: string | undefined }) {
  const { typed, error } = useField(NAME);
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
      <input type="hidden" name={NAME} value={hash} />
      {hash ? <img src={`/photos/${hash}`} alt="The right way round" className="way-thumb" /> : null}
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
        <Button disabled={busy}>{busy ? "Sending…" : hash ? "Another photo" : "Photo of the way round"}</Button>
      </Upload>
      {hash ? (
        <Button type="link" onClick={() => setHash("")}>
          Without photo
        </Button>
      ) : null}
      {problem ? <Notice kind="problem">{problem}</Notice> : null}
    </div>
  );
}
