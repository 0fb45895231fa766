import { Flex } from 'antd';
import { attempt, edits, labelOf, make, transitionNamed, useBench } from '../workbench';
import { Choice } from '../../shared/ui/Choice';
import { NumberField, TextField } from '../../shared/ui/Field';
import { laneOfBar, type Bar } from './model';
import { lastOf } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';

const FRESH_MS = 40;
const ORIGINS: { value: NonNullable<edits.Stagger['origin']>; label: string }[] = [
  { value: 'first', label: 'from the first' },
  { value: 'centre', label: 'from the middle' },
  { value: 'last', label: 'from the last' },
];

/** Layers one after another. Every number is seen in the loop at once. */
export function StaggerPanel({ bars }: { bars: readonly Bar[] }) {
  const piece = useBench((b) => b.document);
  const { transition } = lastOf(bars);
  // From the top of the sheet down, whatever order they were chosen in.
  const layers = [
    ...new Set(bars.filter((bar) => bar.transition === transition).map((bar) => laneOfBar(bar).layer)),
  ].sort((a, b) => place(piece, a) - place(piece, b));
  if (layers.length < 2) return <p className="quiet">Choose bars of two layers or more in one transition.</p>;
  const staggers = transitionNamed(piece, transition).staggers ?? [];
  const found = staggers.find((stagger) => stagger.layers.some((id) => layers.includes(id)));
  const now = { each_ms: FRESH_MS, origin: 'first' as const, easing: 'linear', ...found };
  const set = (values: Partial<edits.Stagger>) => {
    const { layers: before, ...rest } = { ...now, ...values } as edits.Stagger;
    void before;
    return edits.setStagger(useBench.getState().document, transition, layers, {
      ...rest,
      ...('each_ms' in values && { total_ms: null }),
    });
  };
  return (
    <Flex vertical gap={9} component="section">
      <h3>One after another: {layers.map((id) => labelOf(piece, id)).join(', ')}</h3>
      <div className="pairs">
        <NumberField
          label="each"
          name="Stagger each"
          unit="ms"
          step={10}
          value={found ? (now.each_ms ?? 0) : 0}
          commit={(each_ms) => make(set({ each_ms }))}
        />
        <TextField label="along" name="Stagger along" value={now.easing} commit={(easing) => make(set({ easing }))} />
      </div>
      <Choice
        block
        size="small"
        aria-label="Stagger from"
        value={now.origin}
        options={ORIGINS}
        onChange={(origin) => void attempt(set({ origin }))}
      />
      {found && (
        <PlainButton onClick={() => void attempt(edits.setStagger(piece, transition, layers, null))}>
          together again
        </PlainButton>
      )}
    </Flex>
  );
}

/** In painting order, so that what was drawn first comes first. */
const place = (piece: Parameters<typeof edits.idsOf>[0], id: string) => edits.idsOf(piece).indexOf(id);
