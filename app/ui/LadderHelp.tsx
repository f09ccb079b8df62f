/** What a ladder is and how to cut one safely; fetched by whoever asks, and at once by whoever never cut one. */
import { Drawing } from "./Drawing";
import { Notice } from "./Notice";

export function LadderHelp() {
  return (
    <div className="picture">
      <Drawing id="ladder" />
      <div className="stack">
        <p>
          A row of small squares, 15 mm, cut in one scrap of sheet: the same power for all, each a little faster than the one before. The
          slow ones drop out, the fast ones stay. Where dropping ends says how strong the beam is, without a meter.
        </p>
        <p>
          Make the file here and open it in the program you cut with: every speed is a layer and a colour of its own. Press none of the
          squares out; afterwards say how each ended: <b>dropped</b> by itself, <b>hangs</b> by a thread, <b>stays</b> in the sheet. Some
          should drop and some should not.
        </p>
        <Notice kind="caution">
          Lid shut, exhaust and assist air on, extinguisher at hand; stay with it until the last square is out. The maker's manual comes
          first.
        </Notice>
      </div>
    </div>
  );
}
