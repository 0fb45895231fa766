import { line } from '../../../shared/drawing/paint';
import { useBench } from '../bench';
import { archesOf, seamText, type Arch, type Column } from './columns';

const FOOT = 36;

/** What leads where; the arch that closes the loop carries the seam. */
export function Arches({ columns, width }: { columns: readonly Column[]; width: number }) {
  const piece = useBench((b) => b.document);
  const run = useBench((b) => b.run);
  const seam = useBench((b) => b.seam);
  const chosen = useBench((b) => b.transition);
  const arches = archesOf(piece, columns, run);
  const closing = arches.find((arch) => arch.closing);
  return (
    <svg style={{ display: 'block' }} width={width} height={FOOT + 2} aria-hidden="true">
      {arches.map((arch) => (
        <path key={arch.id} d={archPath(arch)} {...paintOf(arch, chosen === arch.id)} />
      ))}
      {arches.map((arch) => (
        <path key={arch.id} {...line('ink', 1.2)} d={`M${arch.to - 3} ${FOOT - 5}l3 5l3 -5`} />
      ))}
      {closing && seam && (
        <text
          x={(closing.from + closing.to) / 2}
          y={9}
          className="halo"
          textAnchor="middle"
          style={{ font: '500 11px var(--mono)' }}
          fill={`var(--${seam.open ? 'coral-text' : 'glass'})`}
        >
          {seamText(seam)}
        </text>
      )}
    </svg>
  );
}

/** Dotted on a cue, dashed where it closes the loop. */
function paintOf({ closing, cue }: Arch, chosen: boolean) {
  const dashes = closing ? '4 3' : cue === 'tap' ? '1.5 3' : undefined;
  return line(chosen ? 'ink' : closing ? 'coral' : 'glass', chosen ? 2 : 1.4, dashes);
}

function archPath({ from, to, closing }: Arch): string {
  // The label of the seam lies above its arch.
  const lift = closing ? 14 : Math.abs(to - from) > 150 ? 17 : 22;
  const lean = Math.min(Math.abs(to - from) / 2, 36) * Math.sign(to - from);
  return `M${from} ${FOOT}C${from} ${lift + 4} ${from + lean / 3} ${lift} ${from + lean} ${lift}L${to - lean} ${lift}C${to - lean / 3} ${lift} ${to} ${lift + 4} ${to} ${FOOT}`;
}
