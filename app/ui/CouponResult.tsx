/** A coupon as it lies on the bench: every square is where it was cut and is told how it ended, with a finger, a glove or the keyboard. */

import "./coupon.css";
import { Button } from "antd";
import { useState } from "react";
import type { RungEnd } from "#core/cuts";
import { textHere, unitHere } from "#services/units";
import { useFormState } from "./form/state";
import { UnitBeside } from "./form/UnitBeside";
import { Notice } from "./Notice";

export interface Square {
  /** Ends the names of its fields: `speed-…`, `end-…`. */
  readonly id: string;
  /** As it stands here. */
  readonly speed: string;
  /** The same as it is kept, mm/s; undefined where it was typed. */
  readonly kept?: string | undefined;
}

/** A square of a kept speed. */
export const squareOf = (id: string, kept: string): Square => ({ id, speed: textHere(kept, "mm/s"), kept });

const ENDS = ["dropped", "hangs", "stays"] as const;
const KEYS: Readonly<Record<string, RungEnd>> = { 1: "dropped", 2: "hangs", 3: "stays", d: "dropped", h: "hangs", s: "stays" };
const isEnd = (text: string | undefined): text is RungEnd => ENDS.includes(text as RungEnd);

/** Slowest first. Pressing a square goes round: dropped, hangs, stays, not told. */
export function CouponResult({ squares, label, quiet = false }: { squares: readonly Square[]; label: string; quiet?: boolean }) {
  const { typed, errors } = useFormState();
  const [ends, setEnds] = useState<Readonly<Record<string, RungEnd | undefined>>>(() =>
    Object.fromEntries(squares.map((s) => [s.id, isEnd(typed[`end-${s.id}`]) ? (typed[`end-${s.id}`] as RungEnd) : undefined])),
  );
  const tell = (id: string, end: RungEnd | undefined) => setEnds((now) => ({ ...now, [id]: end }));
  const told = squares.filter((s) => ends[s.id] !== undefined);
  return (
    <div className="stack">
      <fieldset className="coupon-sheet" aria-label={label}>
        {squares.map((s) => {
          const end = ends[s.id];
          return (
            <div key={s.id} className="coupon-cell">
              <button
                type="button"
                className={`coupon-square ${end ?? "untold"}`}
                aria-label={`${s.speed} ${unitHere("mm/s")}: ${end ?? "not told"}`}
                onClick={() => tell(s.id, end === undefined ? "dropped" : ENDS[ENDS.indexOf(end) + 1])}
                onKeyDown={(e) => {
                  const meant = KEYS[e.key.toLowerCase()];
                  if (meant === undefined || e.ctrlKey || e.metaKey || e.altKey) return;
                  e.preventDefault();
                  tell(s.id, meant);
                  (
                    e.currentTarget.closest(".coupon-cell")?.nextElementSibling?.querySelector("button") as HTMLButtonElement | null
                  )?.focus();
                }}
              >
                <i aria-hidden="true" />
                <span>{end ?? "?"}</span>
              </button>
              <b>{s.speed}</b>
              <input type="hidden" name={`speed-${s.id}`} value={s.speed} />
              <UnitBeside name={`speed-${s.id}`} unit="mm/s" shown={s.speed} kept={s.kept} />
              {end === undefined ? null : <input type="hidden" name={`end-${s.id}`} value={end} />}
            </div>
          );
        })}
      </fieldset>
      {squares.map((s) =>
        errors[`speed-${s.id}`] ? (
          <Notice key={s.id} kind="problem">
            {errors[`speed-${s.id}`]}
          </Notice>
        ) : null,
      )}
      <div className="row">
        {told.length > 0 && told.length < squares.length ? (
          <Button onClick={() => setEnds(rest(squares, ends))}>The rest: slower dropped, faster stay</Button>
        ) : null}
        {quiet ? null : (
          <span className="soft small">
            Press a square until it says what happened, or <kbd>1</kbd> dropped <kbd>2</kbd> hangs <kbd>3</kbd> stays. Not cut: leave it at
            “?”.
          </span>
        )}
      </div>
    </div>
  );
}

/** What was not told, from what was: all slower than one that dropped fell as well, all faster than one that did not stay. */
function rest(squares: readonly Square[], ends: Readonly<Record<string, RungEnd | undefined>>): Record<string, RungEnd | undefined> {
  const speedOf = (s: Square) => Number(s.speed.replace(",", "."));
  const fell = Math.max(Number.NEGATIVE_INFINITY, ...squares.filter((s) => ends[s.id] === "dropped").map(speedOf));
  const held = Math.min(
    Number.POSITIVE_INFINITY,
    ...squares.filter((s) => ends[s.id] !== undefined && ends[s.id] !== "dropped").map(speedOf),
  );
  return Object.fromEntries(
    squares.map((s) => {
      const end = ends[s.id];
      if (end !== undefined) return [s.id, end];
      const v = speedOf(s);
      const fellToo = v <= fell || (!Number.isFinite(fell) && v < held);
      const heldToo = v >= held || (!Number.isFinite(held) && v > fell);
      // Between the last that dropped and the first that did not, nobody knows.
      return [s.id, fellToo ? "dropped" : heldToo ? "stays" : undefined];
    }),
  );
}
