import { Flex, Select } from 'antd';
import { attempt, edits, labelOf, make, stateNamed, transitionNamed, useBench } from '../workbench';
import { Choice } from '../../shared/ui/Choice';
import { NumberField, TextField } from '../../shared/ui/Field';
import { laneOfBar, type Bar } from './model';
import { lastOf } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';

const FRESH_MS = 40;
type Origin = NonNullable<edits.Stagger['origin']>;
const ORIGINS: { value: Origin; label: string }[] = [
  { value: 'first', label: 'from the first' },
  { value: 'centre', label: 'from the middle' },
  { value: 'last', label: 'from the last' },
];

type Piece = Parameters<typeof edits.idsOf>[0];
type Set = (values: Partial<edits.Stagger>, transition?: string) => edits.Edit;

/** Layers one after another. Every number is seen in the loop at once. */
export function StaggerPanel({ bars }: { bars: readonly Bar[] }) {
  const piece = useBench((b) => b.document);
  const { transition } = lastOf(bars);
  // From the top of the sheet down, whatever order they were chosen in.
  const layers = [
    ...new Set(bars.filter((bar) => bar.transition === transition).map((bar) => laneOfBar(bar).layer)),
  ].sort((a, b) => place(piece, a) - place(piece, b));
  const staggers = transitionNamed(piece, transition).staggers ?? [];
  const found = staggers.find((stagger) => stagger.layers.some((id) => layers.includes(id)));
  if (layers.length < 2 && !found) return <p className="quiet">Choose bars of two layers or more in one transition.</p>;
  const missing = found ? layers.filter((id) => !found.layers.includes(id)) : [];
  const set: Set = (values, into = transition) => {
    const kept = found ?? { each_ms: FRESH_MS, origin: 'first' as const, easing: 'linear' };
    // What it is not told to change stays, its layers among it; it is measured in one way at a time.
    const { layers: members = found?.layers ?? layers, ...rest } = {
      ...kept,
      ...('each_ms' in values && { total_ms: null }),
      ...('total_ms' in values && { each_ms: null }),
      ...values,
    };
    return edits.setStagger(useBench.getState().document, into, members, rest);
  };
  return (
    <Flex vertical gap={9} component="section">
      <h3>One after another: {(found?.layers ?? layers).map((id) => labelOf(piece, id)).join(', ')}</h3>
      {found && missing.length > 0 && (
        <PlainButton onClick={() => void attempt(set({ layers: [...found.layers, ...missing] }))}>
          + {missing.map((id) => labelOf(piece, id)).join(', ')} to the stagger
        </PlainButton>
      )}
      <Steps found={found} set={set} />
      {found && <SameIn piece={piece} transition={transition} set={set} />}
      {found && (
        <PlainButton onClick={() => void attempt(edits.setStagger(piece, transition, found.layers, null))}>
          together again
        </PlainButton>
      )}
    </Flex>
  );
}

/** How far they are apart, and from which on. */
function Steps({ found, set }: { found: edits.Stagger | undefined; set: Set }) {
  const gaps = found ? found.layers.length - 1 : 1;
  const total = found ? (found.total_ms ?? (found.each_ms ?? 0) * gaps) : 0;
  const each = found ? (found.each_ms ?? Math.round(total / gaps)) : 0;
  const origin = found?.origin ?? 'first';
  // A step below zero begins at the other end.
  const step = (ms: number) => (ms < 0 ? { each_ms: -ms, origin: OPPOSITE[origin] } : { each_ms: ms });
  return (
    <>
      <div className="pairs">
        <NumberField
          label="each"
          name="Stagger each"
          unit="ms"
          step={10}
          value={each}
          commit={(ms) => make(set(step(ms)))}
        />
        <NumberField
          label="in all"
          name="Stagger in all"
          unit="ms"
          step={10}
          value={total}
          commit={(total_ms) => make(set({ total_ms }))}
        />
      </div>
      <TextField
        label="along"
        name="Stagger along"
        value={found?.easing ?? 'linear'}
        commit={(easing) => make(set({ easing }))}
      />
      <Choice
        block
        size="small"
        aria-label="Stagger from"
        value={origin}
        options={ORIGINS}
        onChange={(next) => void attempt(set({ origin: next }))}
      />
    </>
  );
}

const OPPOSITE: Record<Origin, Origin> = { first: 'last', last: 'first', centre: 'centre' };

/** The same stagger in another transition. */
function SameIn({ piece, transition, set }: { piece: Piece; transition: string; set: Set }) {
  const others = (piece.transitions ?? []).filter((way) => way.id !== transition);
  if (!others.length) return null;
  return (
    <Select
      aria-label="The same stagger in"
      placeholder="the same in…"
      value={null as string | null}
      options={others.map((way) => ({
        value: way.id,
        label: `${stateNamed(piece, way.from).name} → ${stateNamed(piece, way.to).name}`,
      }))}
      onChange={(way) => way !== null && void attempt(set({}, way))}
    />
  );
}

/** In painting order, so that what was drawn first comes first. */
const place = (piece: Piece, id: string) => edits.idsOf(piece).indexOf(id);
