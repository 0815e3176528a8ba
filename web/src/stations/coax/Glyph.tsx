import type { PartView } from "../../service/client";

/** Our own drawing of a device, at its place on the wire. */
export function Glyph({
  kind,
  elevation,
  bare,
}: {
  kind: PartView["kind"];
  elevation?: number;
  bare?: boolean;
}) {
  const line = { fill: "none", stroke: "var(--color-ink)", strokeWidth: 2 } as const;
  const box = { fill: "var(--color-sheet)", stroke: "var(--color-ink)", strokeWidth: 1.5 } as const;
  if (kind === "antenna")
    return (
      <g {...line}>
        <path d="M-58 0H6" />
        {[-54, -44, -34, -24, -14].map((x, i) => (
          <path key={x} d={`M${x} ${-5 - i * 1.6}V${5 + i * 1.6}`} />
        ))}
        <path d="M2 -15V15" strokeWidth="3" />
      </g>
    );
  if (kind === "lnb")
    return (
      <g>
        {!bare && (
          <g transform={`translate(-30 0) rotate(${-(elevation ?? 20)})`}>
            <path d="M-14 -34Q-32 0 -14 34" {...line} strokeWidth={3} />
            <path d="M-14 34L18 12" {...line} />
            <path
              d="M18 2L-12 -30M18 2L-22 2"
              stroke="var(--color-copper)"
              fill="none"
              strokeDasharray="3 3"
            />
          </g>
        )}
        <rect x="-10" y="-9" width="18" height="18" {...box} />
      </g>
    );
  if (kind === "preamplifier" || kind === "amplifier")
    return <path d="M-12 -12L14 0L-12 12Z" {...box} />;
  if (kind === "inserter")
    return (
      <g>
        <circle r="11" {...box} />
        <path d="M-5 -3h10M-5 3h4m2 0h4" stroke="var(--color-ink)" strokeWidth="2" />
      </g>
    );
  if (kind === "line")
    return (
      <g>
        <rect x="-14" y="-11" width="24" height="22" {...box} />
        <path d="M-34 0H-14M-8 -4h12M-8 4h12" {...line} />
      </g>
    );
  if (kind === "filter")
    return (
      <g>
        <rect x="-12" y="-11" width="24" height="22" {...box} />
        <path d="M-8 -4H1L7 6" {...line} />
      </g>
    );
  if (kind === "attenuator")
    return (
      <g>
        <rect x="-12" y="-9" width="24" height="18" {...box} />
        <path d="M-7 5L7 -5" {...line} />
      </g>
    );
  return null;
}

/** Two sloping bars to earth, below a block or an arrester. */
export function EarthFoot() {
  return (
    <path
      d="M0 0v9M-9 9h18M-6 13h12M-3 17h6"
      stroke="var(--color-ink)"
      strokeWidth="1.5"
      fill="none"
    />
  );
}
