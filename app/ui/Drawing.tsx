/** Simple line drawings where words fail. Each has its meaning in words beside it, so it is hidden from screen readers. */
const INK = "var(--ink)";
const HOT = "var(--hot)";

const DRAWINGS: Readonly<Record<string, React.ReactNode>> = {
  spiral: (
    <>
      <circle cx="125" cy="90" r="70" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <path
        d="M125 88 C134 80 144 90 138 100 C128 116 104 108 104 88 C104 62 140 54 156 76 C174 104 148 138 116 134 C82 128 70 92 86 64"
        fill="none"
        stroke={HOT}
        strokeWidth="4"
        strokeLinecap="round"
      />
      <path d="M80 74 L88 58 L96 74" fill="none" stroke={HOT} strokeWidth="4" />
    </>
  ),
  drag: (
    <>
      <circle cx="125" cy="90" r="66" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <path d="M72 90 H176" stroke={HOT} strokeWidth="4" strokeLinecap="round" />
      <path d="M164 78 L180 90 L164 102" fill="none" stroke={HOT} strokeWidth="4" />
      <rect x="40" y="84" width="34" height="12" rx="6" fill="#fafcfa" stroke={INK} strokeWidth="2" />
      <path d="M40 90 L14 60" stroke={INK} strokeWidth="3" />
    </>
  ),
  "lens-sides": (
    <>
      <path d="M60 96 Q125 42 190 96 Z" fill="#e6ebe5" stroke={INK} strokeWidth="2.5" />
      <path d="M125 10 V44" stroke={HOT} strokeWidth="6" />
      <path d="M70 100 L125 166 L180 100" fill="none" stroke={HOT} strokeWidth="2" strokeDasharray="5 4" />
      <text x="196" y="70" fontSize="15" fill={INK}>
        bulge up
      </text>
      <text x="196" y="112" fontSize="15" fill={INK}>
        flat
      </text>
    </>
  ),
  stack: (
    <>
      <rect x="88" y="14" width="74" height="26" fill="none" stroke={INK} strokeWidth="2" />
      <rect x="96" y="50" width="58" height="10" fill="none" stroke={INK} strokeWidth="2" />
      <path d="M96 84 Q125 66 154 84 Z" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <rect x="96" y="92" width="58" height="6" rx="3" fill={INK} />
      <rect x="92" y="106" width="66" height="12" fill="none" stroke={INK} strokeWidth="2" />
      <path d="M100 128 H150 L134 166 H116 Z" fill="none" stroke={INK} strokeWidth="2" />
      {[
        ["holder", 32],
        ["seat", 60],
        ["lens", 82],
        ["soft ring", 99],
        ["ring", 117],
        ["nozzle", 150],
      ].map(([name, y]) => (
        <text key={name} x="170" y={y as number} fontSize="13.5" fill={INK}>
          {name}
        </text>
      ))}
    </>
  ),
  nozzle: (
    <>
      <path d="M74 24 H176 L140 128 H110 Z" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <path d="M125 172 V70" stroke={INK} strokeWidth="9" />
      <path d="M150 160 A26 9 0 1 1 124 151" fill="none" stroke={HOT} strokeWidth="3" />
      <path d="M116 146 L126 151 L118 160" fill="none" stroke={HOT} strokeWidth="3" />
    </>
  ),
  gauge: (
    <>
      <path d="M96 20 H154 L138 82 H112 Z" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <rect x="52" y="84" width="92" height="52" fill="#fafcfa" stroke={HOT} strokeWidth="3" />
      <rect x="30" y="138" width="190" height="12" fill={INK} />
      <text x="62" y="116" fontSize="15" fill={INK}>
        gauge
      </text>
    </>
  ),
  unplug: (
    <>
      <rect x="26" y="66" width="56" height="48" rx="6" fill="none" stroke={INK} strokeWidth="2.5" />
      <circle cx="46" cy="90" r="4" fill={INK} />
      <circle cx="62" cy="90" r="4" fill={INK} />
      <rect x="140" y="72" width="40" height="36" rx="5" fill="#e6ebe5" stroke={INK} strokeWidth="2.5" />
      <path d="M140 82 H124 M140 98 H124" stroke={INK} strokeWidth="4" />
      <path d="M180 90 C206 90 200 130 236 130" fill="none" stroke={INK} strokeWidth="4" />
      <path d="M96 60 L110 44 M108 66 L116 52" stroke={HOT} strokeWidth="3" />
    </>
  ),
  tape: (
    <>
      <circle cx="110" cy="90" r="62" fill="#e6ebe5" stroke={INK} strokeWidth="2" />
      <circle cx="110" cy="90" r="30" fill="none" stroke="var(--line)" strokeWidth="2" />
      <path d="M40 90 H180 M110 20 V160" stroke="var(--line)" strokeWidth="2" />
      <circle cx="102" cy="82" r="8" fill={HOT} />
      <circle cx="134" cy="106" r="8" fill="none" stroke={HOT} strokeWidth="3" />
      <text x="188" y="78" fontSize="14" fill={INK}>
        ● near
      </text>
      <text x="188" y="110" fontSize="14" fill={INK}>
        ○ far
      </text>
    </>
  ),
};

export function Drawing({ id }: { id: string }) {
  const drawing = DRAWINGS[id];
  if (!drawing) return null;
  return (
    <svg className="drawing" viewBox="0 0 250 180" aria-hidden="true">
      {drawing}
    </svg>
  );
}
