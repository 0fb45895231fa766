import { useDeferredValue } from 'react';
import type { Transition } from '../../../api/answers';
import { NumberField } from '../../../shared/ui/Field';
import { choose, make, useBench } from '../bench';
import { setLane } from '../edits';
import { labelOf } from '../tree';

/** Who moves when inside a transition: a bar and a delay for each layer that moves. */
export function Lanes({ transition }: { transition: Transition }) {
  const piece = useBench((b) => b.document!);
  const reading = useDeferredValue(useBench((b) => b.readings[transition.id]));
  const chosen = useBench((b) => b.lane);
  const length = Math.max(reading?.length_ms ?? 1, 1);
  const layers = [...new Set((reading?.moves ?? []).map(([layer]) => layer))];
  return (
    <section className="lanes" aria-label="Lanes">
      <h3>
        Lanes <span className="quiet mono">{reading?.length_ms ?? 0} ms in all</span>
      </h3>
      {!layers.length && <p className="quiet">Nothing differs between these two states, so nothing moves.</p>}
      {layers.map((id) => {
        const moves = reading!.moves.filter((m) => m[0] === id);
        const start = Math.min(...moves.map((m) => m[2]));
        const end = Math.max(...moves.map((m) => m[3]));
        const lane = transition.lanes?.find((l) => l.layer === id && !l.property);
        return (
          <div key={id} className={`lane${chosen === id ? ' chosen' : ''}`}>
            <button className="plain" aria-pressed={chosen === id} title={lane?.timing ? 'Has a timing of its own' : 'Has the timing of the transition'} onClick={() => choose({ lane: chosen === id ? null : id })}>
              {labelOf(piece, id)}
            </button>
            <span className="lane-track">
              <span className={lane?.timing ? 'own' : ''} style={{ left: `${(start / length) * 100}%`, width: `${((end - start) / length) * 100}%` }} />
            </span>
            <NumberField label="" name={`Delay of ${id}`} step={10} value={lane?.delay_ms ?? 0} commit={(delay_ms) => make(setLane(useBench.getState().document!, transition.id, id, { delay_ms }))} />
            <span className="mono lane-length">+{end - start}</span>
          </div>
        );
      })}
    </section>
  );
}
