import { Select } from 'antd';
import type { Transition } from '../../../api/contract';
import { NumberField } from '../../../shared/ui/Field';
import { attempt, make, useBench } from '../bench';
import { setTransition } from '../edits';
import { labelOf, walk } from '../tree';
import { firstOf } from '../../../shared/known';

type Cue = NonNullable<Transition['cue']>;

const BY_ITSELF: [Cue, string][] = [
  ['hold', 'after a hold'],
  ['appear', 'when it appears'],
  ['media-end', 'at a medium’s end'],
];
const BY_A_PERSON: [Cue, string][] = [
  ['tap', 'tap'],
  ['double-tap', 'double tap'],
  ['press', 'press'],
  ['over', 'pointer over'],
  ['out', 'pointer out'],
  ['in-view', 'scrolled into view'],
];
const optionsOf = (cues: [Cue, string][]) => cues.map(([value, label]) => ({ value, label }));

/** What sets a transition off, on which layer, and how long the state is held first. */
export function CueFields({ transition }: { transition: Transition }) {
  const piece = useBench((b) => b.document);
  const set = (label: string, values: Partial<Transition>) =>
    setTransition(useBench.getState().document, transition.id, label, values);
  const cue = transition.cue ?? 'hold';
  const layers = walk(piece.layers ?? []).map((p) => p.layer);
  const media = layers.filter((layer) => layer.kind === 'medium');
  const byItself = BY_ITSELF.filter(([value]) => value !== 'media-end' || media.length > 0 || cue === value);
  const targets = (cue === 'media-end' ? media : layers).map((layer) => ({
    value: layer.id,
    label: labelOf(piece, layer.id),
  }));
  const everywhere = { value: '', label: 'anywhere on it' };
  const aimed = cue !== 'hold' && cue !== 'appear' && cue !== 'in-view';
  const setCue = (value: Cue) => {
    // A medium's end is always that of one medium; what needs nobody is aimed at nothing.
    const target =
      value === 'media-end'
        ? firstOf(media).id
        : BY_A_PERSON.some(([name]) => name === value)
          ? (transition.cue_layer ?? null)
          : null;
    void attempt(set('Cue', { cue: value, cue_layer: target, ...(value === 'hold' ? {} : { early_ms: 0 }) }));
  };
  return (
    <>
      <div className="pairs">
        <Select<Cue>
          aria-label="Cue"
          value={cue}
          popupMatchSelectWidth={false}
          options={[
            { label: 'automatic', options: optionsOf(byItself) },
            { label: 'user input', options: optionsOf(BY_A_PERSON) },
          ]}
          onChange={setCue}
        />
        <NumberField
          label={cue === 'hold' || cue === 'appear' ? 'for' : 'after'}
          name="hold"
          unit="ms"
          step={10}
          tone="brass"
          value={transition.hold_ms ?? 0}
          commit={(v) => make(set('Hold', { hold_ms: v, ...(v ? { early_ms: 0 } : {}) }))}
        />
      </div>
      {aimed && (
        <Select
          aria-label="Cue layer"
          value={transition.cue_layer ?? ''}
          options={cue === 'media-end' ? targets : [everywhere, ...targets]}
          onChange={(layer: string) => void attempt(set('Cue', { cue_layer: layer || null }))}
        />
      )}
      {cue === 'hold' && !transition.hold_ms && (
        <NumberField
          label="starts early by"
          name="early"
          unit="ms"
          step={10}
          value={transition.early_ms ?? 0}
          commit={(v) => make(set('Leave early', { early_ms: v }))}
        />
      )}
    </>
  );
}
