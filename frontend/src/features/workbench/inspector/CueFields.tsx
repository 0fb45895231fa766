import { Select } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Piece, Transition } from '../../../api/contract';
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
  const media = useBench(useShallow((b) => layersOf(b.document).filter((layer) => layer.kind === 'medium')));
  const set = (label: string, values: Partial<Transition>) =>
    setTransition(useBench.getState().document, transition.id, label, values);
  const cue = transition.cue ?? 'hold';
  const automatic = BY_ITSELF.filter(([value]) => value !== 'media-end' || media.length > 0 || cue === value);
  const setCue = (value: Cue) => {
    const target =
      value === 'media-end' ? firstOf(media).id : isByAPerson(value) ? (transition.cue_layer ?? null) : null;
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
            { label: 'automatic', options: optionsOf(automatic) },
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
      <CueLayer transition={transition} set={(layer) => void attempt(set('Cue', { cue_layer: layer }))} />
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

const layersOf = (piece: Piece) => walk(piece.layers ?? []).map((p) => p.layer);
const isByAPerson = (cue: Cue) => BY_A_PERSON.some(([name]) => name === cue);
/** What needs nobody is aimed at nothing. */
const UNAIMED: readonly Cue[] = ['hold', 'appear', 'in-view'];

/** The layer that is touched, or the medium that ends. */
function CueLayer({ transition, set }: { transition: Transition; set: (layer: string | null) => void }) {
  const piece = useBench((b) => b.document);
  const cue = transition.cue ?? 'hold';
  if (UNAIMED.includes(cue)) return null;
  const ofMedia = cue === 'media-end';
  const targets = layersOf(piece)
    .filter((layer) => !ofMedia || layer.kind === 'medium')
    .map((layer) => ({ value: layer.id, label: labelOf(piece, layer.id) }));
  return (
    <Select
      aria-label="Cue layer"
      value={transition.cue_layer ?? ''}
      options={ofMedia ? targets : [{ value: '', label: 'anywhere on it' }, ...targets]}
      onChange={(layer: string) => set(layer || null)}
    />
  );
}
