import { COUPON_FIELDS, type CouponForm, couponOf, couponSchema, isRefusal, readSpeeds } from "#core/coupon";
import { sentNumbers } from "../../forms/number";
import { rangeHere, unitsInForce, withUnit } from "../../units";
import { materialName, number } from "../../words";
import { keptText } from "../rungs";
import { COUPON_WORDS } from "../words";
import { type EventKindDefinition, idOf } from "./definition";

const isForm = (text: string | undefined): text is CouponForm => couponSchema.properties.form.enum.includes(text as CouponForm);

export const coupon: EventKindDefinition<"coupon"> = {
  name: "Test file",
  says: ({ payload: p }, g) => {
    const speeds = p.speedsMmPerS ?? [];
    const span =
      speeds.length > 1
        ? rangeHere(Math.min(...speeds), Math.max(...speeds), "mm/s")
        : speeds.length === 1
          ? withUnit(speeds[0] as number, "mm/s")
          : "";
    return [
      COUPON_WORDS[p.form].name.toLowerCase(),
      p.materialId === undefined ? "" : materialName(g.materials.find((m) => m.id === p.materialId)),
      span,
      p.setPercent === undefined ? "" : `${number(p.setPercent, 0)} %`,
    ]
      .filter(Boolean)
      .join(", ");
  },
  entry: {
    read: (reader) => {
      const form = reader.text("form");
      if (!isForm(form)) return { form };
      const fields = COUPON_FIELDS[form];
      const size = (name: string, example: string) =>
        (fields as readonly string[]).includes(name) ? reader.optionalNumber(name, "mm", example) : undefined;
      const { speeds, bad } = sentNumbers((name) => reader.text(name), "speedsMmPerS", "mm/s", readSpeeds);
      if (bad !== undefined) reader.errors.speedsMmPerS = `"${bad}" is not a speed. Give numbers with spaces between, such as 9 10 11.`;
      return {
        form,
        materialId: fields.includes("materialId") ? idOf(reader.text("materialId")) : undefined,
        setPercent: fields.includes("setPercent") ? reader.number("setPercent", "%", "60") : undefined,
        speedsMmPerS: fields.includes("speedsMmPerS") && bad === undefined ? speeds : undefined,
        sizeMm: size("sizeMm", "15"),
        marginMm: size("marginMm", "5"),
        bedWidthMm: size("bedWidthMm", "900"),
        bedDepthMm: size("bedDepthMm", "600"),
        lengthMm: size("lengthMm", "120"),
        riseMm: size("riseMm", "12"),
        lineMm: size("lineMm", "0.2"),
      };
    },
    typed: ({ speedsMmPerS }) => ({ speedsMmPerS: (speedsMmPerS ?? []).map(keptText).join(" ") }),
    errorAt: (path, message) => (path.startsWith("speedsMmPerS") ? ["speedsMmPerS", `A speed: ${message}`] : undefined),
    problem: (payload, g) => {
      const drawn = couponOf(payload, materialName(g.materials.find((m) => m.id === payload.materialId)), unitsInForce());
      return isRefusal(drawn) ? { errors: { [drawn.field]: drawn.reason } } : undefined;
    },
  },
};
