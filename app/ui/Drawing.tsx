/** Simple line drawings where words fail. Each has its meaning in words beside it, so it is hidden from screen readers. */
const INK = "var(--ink)";
const HOT = "var(--hot)";

const DRAWINGS: Readonly<Record<string, React.ReactNode>> = {
  spiral: (
    <>
      <circle cx="125" cy="90" r="70" fill="var(--ground)" stroke={INK} strokeWidth="2" />
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
      <circle cx="125" cy="90" r="66" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M72 90 H176" stroke={HOT} strokeWidth="4" strokeLinecap="round" />
      <path d="M164 78 L180 90 L164 102" fill="none" stroke={HOT} strokeWidth="4" />
      <rect x="40" y="84" width="34" height="12" rx="6" fill="var(--card)" stroke={INK} strokeWidth="2" />
      <path d="M40 90 L14 60" stroke={INK} strokeWidth="3" />
    </>
  ),
  "lens-sides": (
    <>
      <path d="M60 96 Q125 42 190 96 Z" fill="var(--ground)" stroke={INK} strokeWidth="2.5" />
      <path d="M125 10 V44" stroke={HOT} strokeWidth="6" />
      <path d="M70 100 L125 166 L180 100" fill="none" stroke={HOT} strokeWidth="2" strokeDasharray="5 4" />
      <text x="242" y="66" fontSize="15" fill={INK} textAnchor="end">
        bulge up
      </text>
      <text x="242" y="114" fontSize="15" fill={INK} textAnchor="end">
        flat
      </text>
    </>
  ),
  stack: (
    <>
      <rect x="88" y="14" width="74" height="26" fill="none" stroke={INK} strokeWidth="2" />
      <rect x="96" y="50" width="58" height="10" fill="none" stroke={INK} strokeWidth="2" />
      <path d="M96 84 Q125 66 154 84 Z" fill="var(--ground)" stroke={INK} strokeWidth="2" />
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
      <path d="M74 24 H176 L140 128 H110 Z" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M125 172 V70" stroke={INK} strokeWidth="9" />
      <path d="M150 160 A26 9 0 1 1 124 151" fill="none" stroke={HOT} strokeWidth="3" />
      <path d="M116 146 L126 151 L118 160" fill="none" stroke={HOT} strokeWidth="3" />
    </>
  ),
  gauge: (
    <>
      <path d="M96 20 H154 L138 82 H112 Z" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <rect x="52" y="84" width="92" height="52" fill="var(--card)" stroke={HOT} strokeWidth="3" />
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
      <rect x="140" y="72" width="40" height="36" rx="5" fill="var(--ground)" stroke={INK} strokeWidth="2.5" />
      <path d="M140 82 H124 M140 98 H124" stroke={INK} strokeWidth="4" />
      <path d="M180 90 C206 90 200 130 236 130" fill="none" stroke={INK} strokeWidth="4" />
      <path d="M96 60 L110 44 M108 66 L116 52" stroke={HOT} strokeWidth="3" />
    </>
  ),
  tape: (
    <>
      <circle cx="110" cy="90" r="62" fill="var(--ground)" stroke={INK} strokeWidth="2" />
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
  screws: (
    <>
      <rect x="40" y="30" width="170" height="120" rx="6" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      {[
        [60, 50, "1"],
        [190, 130, "2"],
        [190, 50, "3"],
        [60, 130, "4"],
      ].map(([x, y, n]) => (
        <g key={n} transform={`translate(${x} ${y})`}>
          <circle r="11" fill="var(--card)" stroke={HOT} strokeWidth="3" />
          <text y="5" textAnchor="middle" fontSize="14" fontWeight="650" fill={INK}>
            {n}
          </text>
        </g>
      ))}
      <path d="M72 58 L178 122 M178 58 L72 122" stroke={INK} strokeWidth="1" strokeDasharray="4 4" />
    </>
  ),
  notch: (
    <>
      <circle cx="125" cy="90" r="66" fill="none" stroke={INK} strokeWidth="2" />
      <circle cx="125" cy="90" r="52" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M84 122 L74 132 L92 130 Z" fill={HOT} stroke={HOT} strokeWidth="3" />
      <path d="M40 166 L72 136" stroke={HOT} strokeWidth="2" />
      <text x="10" y="176" fontSize="14" fill={INK}>
        notch or stamp
      </text>
    </>
  ),
  collar: (
    <>
      <rect x="30" y="72" width="70" height="36" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <rect x="100" y="64" width="18" height="52" rx="4" fill="var(--card)" stroke={HOT} strokeWidth="3" />
      <rect x="118" y="78" width="106" height="24" rx="4" fill="none" stroke={INK} strokeWidth="2" />
      <path d="M132 50 H108 M116 42 L108 50 L116 58" fill="none" stroke={HOT} strokeWidth="3" />
      <path d="M160 130 H210 M202 122 L210 130 L202 138" fill="none" stroke={INK} strokeWidth="3" />
      <text x="136" y="46" fontSize="14" fill={INK}>
        1 collar in
      </text>
      <text x="150" y="160" fontSize="14" fill={INK}>
        2 hose out
      </text>
    </>
  ),
  "head-cap": (
    <>
      <rect x="70" y="86" width="110" height="70" rx="6" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M70 50 Q125 26 180 50 V66 H70 Z" fill="var(--card)" stroke={HOT} strokeWidth="3" />
      <path d="M125 82 V72 M125 24 V8 M117 15 L125 7 L133 15" fill="none" stroke={HOT} strokeWidth="3" />
      <path d="M180 120 C206 120 206 96 232 96" fill="none" stroke={INK} strokeWidth="5" />
      <text x="188" y="142" fontSize="13.5" fill={INK}>
        ribbon
      </text>
      <text x="188" y="158" fontSize="13.5" fill={INK}>
        stays
      </text>
    </>
  ),
  "lens-tool": (
    <>
      <path d="M96 16 V74 M154 16 V74" stroke={INK} strokeWidth="2.5" />
      <path d="M98 58 Q125 44 152 58 L150 66 H100 Z" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <rect x="106" y="98" width="38" height="64" rx="4" fill="var(--card)" stroke={INK} strokeWidth="2" />
      <path d="M106 98 L102 78 M144 98 L148 78" stroke={HOT} strokeWidth="4" strokeLinecap="round" />
      <path d="M78 150 V96 M70 104 L78 96 L86 104" fill="none" stroke={HOT} strokeWidth="3" />
      <text x="160" y="112" fontSize="14" fill={INK}>
        gripping end
      </text>
      <text x="160" y="130" fontSize="14" fill={INK}>
        clicks
      </text>
    </>
  ),
  "lens-arrow": (
    <>
      <path d="M60 70 Q125 40 190 70 V104 Q125 118 60 104 Z" fill="var(--ground)" stroke={INK} strokeWidth="2.5" />
      <path d="M125 102 V78 M116 87 L125 77 L134 87" fill="none" stroke={HOT} strokeWidth="4" />
      <path d="M125 164 V132 M115 142 L125 131 L135 142" fill="none" stroke={INK} strokeWidth="3" />
      <text x="142" y="154" fontSize="14" fill={INK}>
        goes in from below
      </text>
      <text x="142" y="96" fontSize="14" fill={INK}>
        arrow up
      </text>
    </>
  ),
  seat: (
    <>
      <path d="M60 40 V124 H84 V84 H166 V124 H190 V40" fill="none" stroke={INK} strokeWidth="2.5" />
      <path d="M86 82 Q125 58 164 82 Z" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M52 84 H36 M214 84 H198" stroke={HOT} strokeWidth="3" />
      <path d="M44 70 V98 M206 70 V98" stroke={HOT} strokeWidth="3" />
      <text x="70" y="158" fontSize="14" fill={INK}>
        level all round: tap, never poke
      </text>
    </>
  ),
  "fan-arrow": (
    <>
      <rect x="14" y="50" width="62" height="80" fill="none" stroke={INK} strokeWidth="2" />
      <text x="20" y="148" fontSize="13.5" fill={INK}>
        machine
      </text>
      <path d="M76 76 H110 M76 104 H110 M180 76 H236 M180 104 H236" stroke={INK} strokeWidth="2" />
      <circle cx="145" cy="90" r="38" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path
        d="M145 90 L145 62 A28 28 0 0 1 169 76 Z M145 90 L169 104 A28 28 0 0 1 145 118 Z M145 90 L121 104 A28 28 0 0 1 121 76 Z"
        fill={INK}
      />
      <path d="M112 30 H190 M178 20 L192 30 L178 40" fill="none" stroke={HOT} strokeWidth="4" />
    </>
  ),
  "rail-ends": (
    <>
      <rect x="18" y="66" width="214" height="16" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <rect x="100" y="52" width="50" height="62" rx="4" fill="var(--card)" stroke={INK} strokeWidth="2" />
      <path d="M92 132 H40 M48 124 L40 132 L48 140 M158 132 H210 M202 124 L210 132 L202 140" fill="none" stroke={INK} strokeWidth="3" />
      {[22, 28, 35, 215, 222, 228].map((x, i) => (
        <circle key={x} cx={x} cy={62 - (i % 2) * 5} r="3.5" fill={HOT} />
      ))}
      <text x="16" y="40" fontSize="14" fill={INK}>
        debris at both ends
      </text>
    </>
  ),
  strip: (
    <>
      <rect x="14" y="84" width="222" height="14" fill="var(--ground)" stroke={INK} strokeWidth="1.5" />
      <path d="M22 91 H232" stroke={INK} strokeWidth="12" strokeDasharray="1.5 6.5" />
      <path d="M92 50 V82 M112 50 V82" stroke={INK} strokeWidth="2" />
      <rect x="84" y="24" width="36" height="26" fill="none" stroke={INK} strokeWidth="2" />
      <path d="M160 60 C190 54 190 78 164 74" fill="none" stroke={HOT} strokeWidth="3" />
      <path d="M172 82 L162 74 L172 66" fill="none" stroke={HOT} strokeWidth="3" />
      <circle cx="152" cy="112" r="9" fill="var(--card)" stroke={HOT} strokeWidth="3" />
      <circle cx="152" cy="70" r="9" fill="var(--card)" stroke={HOT} strokeWidth="3" />
      <text x="30" y="150" fontSize="14" fill={INK}>
        reader lifted clear; both faces
      </text>
    </>
  ),
  ladder: (
    <>
      <rect x="8" y="24" width="234" height="76" fill="var(--ground)" stroke={INK} strokeWidth="1.5" />
      {[0, 1, 2, 3, 4, 5].map((i) => (
        <rect
          key={i}
          x={18 + i * 37}
          y={i < 3 ? 66 : 44}
          width="26"
          height="26"
          fill={i < 3 ? "var(--card)" : "none"}
          stroke={i === 3 ? HOT : INK}
          strokeWidth="2"
          strokeDasharray={i === 3 ? "18 5" : undefined}
          transform={i < 3 ? `translate(0 44) rotate(${(i - 1) * 9} ${31 + i * 37} 79)` : undefined}
        />
      ))}
      {[0, 1, 2].map((i) => (
        <rect key={i} x={18 + i * 37} y="44" width="26" height="26" fill={INK} fillOpacity="0.12" stroke={INK} strokeWidth="1" />
      ))}
      <text x="18" y="18" fontSize="14" fill={INK}>
        slow
      </text>
      <text x="200" y="18" fontSize="14" fill={INK}>
        fast
      </text>
      <text x="126" y="124" fontSize="14" fill={HOT}>
        hangs
      </text>
      <text x="182" y="124" fontSize="14" fill={INK}>
        stay
      </text>
      <text x="18" y="158" fontSize="14" fill={INK}>
        these dropped
      </text>
    </>
  ),
  "bed-sides": (
    <>
      <rect x="70" y="34" width="110" height="84" fill="var(--ground)" stroke={INK} strokeWidth="2" />
      <path d="M70 62 H180 M70 90 H180 M106 34 V118 M143 34 V118" stroke={INK} strokeWidth="1" />
      <path d="M52 132 H198" stroke={INK} strokeWidth="4" />
      <path d="M196 60 A66 52 0 0 1 196 104 M206 96 L196 106 L188 94" fill="none" stroke={HOT} strokeWidth="3" />
      <text x="40" y="160" fontSize="14" fill={INK}>
        four sides, a quarter each
      </text>
    </>
  ),
  "fill-order": (
    <>
      <path d="M70 60 V150 H180 V60" fill="none" stroke={INK} strokeWidth="2.5" />
      <rect x="72" y="118" width="106" height="31" fill="var(--haze-fill)" />
      <rect x="72" y="82" width="106" height="36" fill="var(--ground)" />
      <path d="M125 14 V66 M115 56 L125 67 L135 56" fill="none" stroke={HOT} strokeWidth="3" />
      <text x="84" y="139" fontSize="14" fill={INK}>
        1 glycol
      </text>
      <text x="84" y="105" fontSize="14" fill={INK}>
        2 water
      </text>
    </>
  ),
  bubbles: (
    <>
      <rect x="30" y="74" width="190" height="34" rx="17" fill="var(--ground)" stroke={INK} strokeWidth="2" transform="rotate(-9 125 90)" />
      {[
        [186, 78, 7],
        [168, 84, 5],
        [200, 72, 5],
      ].map(([x, y, r]) => (
        <circle key={x} cx={x} cy={y} r={r} fill="var(--card)" stroke={HOT} strokeWidth="2.5" />
      ))}
      <path d="M214 66 V30 M206 38 L214 29 L222 38" fill="none" stroke={HOT} strokeWidth="3" />
      <text x="26" y="160" fontSize="14" fill={INK}>
        outlet up: the last bubble leaves
      </text>
    </>
  ),
};

export const DRAWING_IDS: ReadonlySet<string> = new Set(Object.keys(DRAWINGS));

export function Drawing({ id }: { id: string }) {
  const drawing = DRAWINGS[id];
  if (!drawing) return null;
  return (
    <svg className="drawing" viewBox="0 0 250 180" aria-hidden="true">
      {drawing}
    </svg>
  );
}
