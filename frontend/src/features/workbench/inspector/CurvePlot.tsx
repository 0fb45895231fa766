import type { TimingReading } from '../../../api/answers';

const W = 236;
const H = 104;

/** The curve over its time, drawn from the points that the server computed. */
export function CurvePlot({ reading }: { reading: TimingReading }) {
  const { curve, spring, own_ms } = reading;
  const values = curve.map(([, p]) => p);
  const low = Math.min(0, ...values);
  const high = Math.max(1, ...values);
  // A spring is shown a little beyond the moment it has settled.
  const span = spring ? 1.15 : 1;
  const x = (u: number) => (u / span) * W;
  const y = (p: number) => H - ((p - low) / (high - low)) * H;
  const line = curve.map(([u, p], i) => `${i ? 'L' : 'M'}${x(u).toFixed(1)} ${y(p).toFixed(1)}`).join('') + (spring ? `L${W} ${y(1)}` : '');
  const peakAt = spring?.peak_ms != null ? spring.peak_ms / Math.max(own_ms, 1) : null;
  return (
    <figure className="plot">
      <svg width={W + 16} height={H + 44} viewBox={`-8 -20 ${W + 16} ${H + 44}`} role="img" aria-label={describe(reading)}>
        {[0.25, 0.5, 0.75].map((u) => (
          <line key={u} className="grid" x1={u * W} x2={u * W} y1={0} y2={H} />
        ))}
        <rect className="frame" width={W} height={H} />
        <line className="goal" x1={0} x2={W} y1={y(1)} y2={y(1)} />
        {low < 0 && <line className="goal" x1={0} x2={W} y1={y(0)} y2={y(0)} />}
        <path className="line" d={line} />
        {spring && <line className="settled" x1={x(1)} x2={x(1)} y1={0} y2={H} />}
        {spring && (
          <text className="settled-text" x={x(1) - 4} y={H - 6}>
            settled {spring.settling_ms} ms
          </text>
        )}
        {peakAt !== null && peakAt < 1 && spring && (
          <>
            <circle cx={x(peakAt)} cy={y(spring.peak)} r={3.5} />
            <text x={x(peakAt) + 8} y={y(spring.peak) - 7} className="peak">
              peak {spring.peak.toFixed(2)} at {Math.round(spring.peak_ms!)} ms
            </text>
          </>
        )}
        <text y={H + 14}>0</text>
        <text x={W} y={H + 14} className="end">
          {Math.round(own_ms * span)} ms
        </text>
      </svg>
      {spring && spring.overshoot < 0.0005 && <figcaption className="quiet">No overshoot: it nears the goal from one side.</figcaption>}
    </figure>
  );
}

function describe({ spring, own_ms }: TimingReading): string {
  if (!spring) return `Curve over ${own_ms} ms`;
  const peak = spring.peak_ms === null ? 'no overshoot' : `peak ${spring.peak} at ${spring.peak_ms} ms`;
  return `Spring: ${peak}, settled after ${spring.settling_ms} ms`;
}
