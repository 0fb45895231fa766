import { Select } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Drawn, Layer, Piece, Transition } from '../../../api/contract';
import { NumberField, TypedField } from '../../../shared/ui/Field';
import { attempt, make, useBench, type Bench } from '../bench';
import { BY_A_PERSON, BY_ITSELF, isByAPerson, type Cue, keyName, parseKey } from '../cues';
import { sectionsOf, setTransition, setTransitions } from '../edits';
import { lastOf } from '../../../shared/known';
import type { Edit } from '../edits/edit';
import { originalOf } from '../placements';
import { labelOf, walk } from '../tree';

const optionsOf = (cues: Partial<Record<Cue, { label: string }>>, but: readonly string[] = []) =>
  Object.entries(cues)
    .filter(([value]) => !but.includes(value))
    .map(([value, { label }]) => ({ value: value as Cue, label }));

interface Targets {
  /** A medium that ends. */
  medium: string | undefined;
  /** A copy that lives free, and a state that it reaches. */
  arrival: readonly [copy: string, state: string] | undefined;
}

/** What the cues that need nobody may be aimed at first. */
function targetsIn(bench: Pick<Bench, 'document' | 'originals'>): Targets {
  const layers = layersOf(bench.document);
  return {
    medium: layers.find((layer) => layer.kind === 'medium')?.id,
    arrival: layers
      .filter(isFree)
      .flatMap(({ id }) => originalOf(bench, id)?.states.map((state) => [id, state.id] as const) ?? [])
      .at(-1),
  };
}

/** Another cue, and what it is aimed at; what it does not say needs not be taken back. */
function cueChange(transition: Transition, cue: Cue, { medium, arrival }: Targets): Partial<Transition> {
  const [copy, reached] = (cue === 'reaches' && arrival) || [null, null];
  const kept = isByAPerson(cue) ? (transition.cue_layer ?? null) : null;
  const target = cue === 'media-end' ? (medium ?? null) : (copy ?? kept);
  const key = cue === 'key' ? (transition.cue_key ?? 'ArrowRight') : null;
  return {
    cue,
    ...(target || transition.cue_layer ? { cue_layer: target } : {}),
    ...(key || transition.cue_key ? { cue_key: key } : {}),
    ...(reached || transition.cue_state ? { cue_state: reached } : {}),
    ...(cue !== 'hold' && transition.early_ms ? { early_ms: 0 } : {}),
  };
}

/** What sets transitions off, on which layer, and how long the state is held first: set in all of them at once. */
export function CueFields({ ways }: { ways: readonly Transition[] }) {
  const bench = useBench(useShallow(({ document, originals }) => ({ document, originals })));
  const transition = lastOf(ways);
  const set: SetWays = (label, values) => setWays(ways, label, () => values);
  const cue = transition.cue ?? 'hold';
  const differ = (read: (way: Transition) => unknown) => ways.some((way) => read(way) !== read(transition));
  const cuesDiffer = differ((way) => way.cue ?? 'hold');
  const targets = targetsIn(bench);
  const automatic = optionsOf(BY_ITSELF, [
    ...(targets.medium || cue === 'media-end' ? [] : ['media-end']),
    ...(targets.arrival || cue === 'reaches' ? [] : ['reaches']),
  ]);
  const setCue = (value: Cue) => void attempt(setWays(ways, 'Cue', (way) => cueChange(way, value, targets)));
  return (
    <>
      <div className="pairs">
        <Select<Cue>
          aria-label="Cue"
          {...(cuesDiffer ? { placeholder: 'differs' } : { value: cue })}
          popupMatchSelectWidth={false}
          options={[
            { label: 'automatic', options: automatic },
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
          mixed={differ((way) => way.hold_ms ?? 0)}
          commit={(v) => make(set('Hold', { hold_ms: v, ...(v ? { early_ms: 0 } : {}) }))}
        />
      </div>
      {!cuesDiffer && <Aimed transition={transition} set={set} differ={differ} />}
      {cue === 'hold' && !cuesDiffer && !ways.some((way) => way.hold_ms) && (
        <NumberField
          label="starts early by"
          name="early"
          unit="ms"
          step={10}
          value={transition.early_ms ?? 0}
          mixed={differ((way) => way.early_ms ?? 0)}
          commit={(v) => make(set('Leave early', { early_ms: v }))}
        />
      )}
    </>
  );
}

type SetWays = (label: string, values: Partial<Transition>) => Edit;

function setWays(ways: readonly Transition[], label: string, valuesOf: (own: Transition) => Partial<Transition>): Edit {
  const piece = useBench.getState().document;
  const [only, another] = ways;
  return only && !another
    ? setTransition(piece, only.id, label, valuesOf(only))
    : setTransitions(
        piece,
        ways.map((way) => way.id),
        label,
        valuesOf,
      );
}

interface AimedProps {
  transition: Transition;
  set: SetWays;
  differ: (read: (way: Transition) => unknown) => boolean;
}

/** What the cue is aimed at. */
function Aimed({ transition, set, differ }: AimedProps) {
  return (
    <>
      {transition.cue === 'reaches' && <Arrival transition={transition} set={set} />}
      <CueLayer
        transition={transition}
        mixed={differ((way) => way.cue_layer ?? null)}
        set={(layer) => void attempt(set('Cue', { cue_layer: layer }))}
      />
      <CueDetail transition={transition} set={set} />
    </>
  );
}

/** Which key, or which share of a layer. */
function CueDetail({ transition, set }: Omit<AimedProps, 'differ'>) {
  const cue = transition.cue ?? 'hold';
  return (
    <>
      {cue === 'key' && (
        <TypedField
          label="key"
          name="cue key"
          value={transition.cue_key ?? ''}
          format={keyName}
          parse={parseKey}
          commit={(v) => make(set('Key', { cue_key: v }))}
        />
      )}
      {cue.endsWith('view') && (
        <NumberField
          label="share in view"
          name="share in view"
          step={0.1}
          value={transition.cue_share ?? 0.5}
          commit={(v) => make(set('Share in view', { cue_share: v }))}
        />
      )}
    </>
  );
}

/** Which copy stands where. */
function Arrival({ transition, set }: Omit<AimedProps, 'differ'>) {
  const bench = useBench(useShallow(({ document, originals }) => ({ document, originals })));
  const copies = layersOf(bench.document).filter(isFree);
  const states = originalOf(bench, transition.cue_layer ?? '')?.states ?? [];
  const setCopy = (copy: string) => {
    const [first] = originalOf(bench, copy)?.states.slice(-1) ?? [];
    void attempt(set('Cue', { cue_layer: copy, cue_state: first?.id ?? transition.cue_state ?? null }));
  };
  return (
    <div className="pairs">
      <Select
        aria-label="Copy that arrives"
        value={transition.cue_layer ?? ''}
        options={copies.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={setCopy}
      />
      <Select
        aria-label="State that it reaches"
        value={transition.cue_state ?? ''}
        options={states.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(state: string) => void attempt(set('Cue', { cue_state: state }))}
      />
    </div>
  );
}

const isFree = (layer: Layer) => layer.kind === 'placement' && layer.life === 'free';
const layersOf = (piece: Piece) => walk(piece.layers ?? []).map((p) => p.layer);
/** What needs nobody is aimed at nothing. */
const IN_VIEW: readonly Cue[] = ['in-view', 'out-of-view'];
const UNAIMED: readonly Cue[] = ['hold', 'appear'];

/** The layers inside of copies. */
const insideOf = (layers: readonly Drawn[]): Drawn[] =>
  layers.flatMap((layer) => [...(layer.id.includes('/') ? [layer] : []), ...insideOf(layer.layers ?? [])]);

interface CueLayerProps {
  transition: Transition;
  mixed: boolean;
  set: (layer: string | null) => void;
}

/** The layer that is touched, or the medium that ends. */
function CueLayer({ transition, mixed, set }: CueLayerProps) {
  const piece = useBench((b) => b.document);
  const drawn = useBench((b) => b.layers);
  const cue = transition.cue ?? 'hold';
  if (UNAIMED.includes(cue) || cue === 'reaches') return null;
  const ofMedia = cue === 'media-end';
  const targets = layersOf(piece)
    .filter((layer) => !ofMedia || layer.kind === 'medium')
    .map((layer) => ({ value: layer.id, label: labelOf(piece, layer.id) }))
    .concat(IN_VIEW.includes(cue) ? sectionsOf(piece).map(({ id, name }) => ({ value: id, label: name })) : [])
    .concat(ofMedia ? [] : insideOf(drawn ?? []).map(({ id, name }) => ({ value: id, label: name })));
  return (
    <Select
      aria-label="Cue layer"
      {...(mixed ? { placeholder: 'differs' } : { value: transition.cue_layer ?? '' })}
      options={ofMedia ? targets : [{ value: '', label: 'anywhere on it' }, ...targets]}
      onChange={(layer: string) => set(layer || null)}
    />
  );
}
