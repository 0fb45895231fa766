import { Checkbox } from 'antd';
import type { ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer, Piece, Value } from '../../../api/contract';
import { GROUPS, type Property } from '../../../api/generated/catalogue';
import { Fold } from '../../../shared/ui/Fold';
import { ChangeField, NumberField, TypedField } from '../../../shared/ui/Field';
import { parseValue, textOf, valueText } from '../../../shared/text/values';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit, make, useBench } from '../bench';
import { commonOf, type Common } from '../chosenLooks';
import { reaches } from '../chosen';
import { stage } from '../stageHands';
import { AXES, backToBase, FAMILY, namesOf, ownValues, setFixed, shownOf, traitIn, type Scope } from '../edits';
import { changeLooks, looksEdit } from '../looks';
import { placed, stateNamed } from '../tree';
import { LayoutDiagram, ResizeDiagram } from './Diagrams';
import { AlongSections } from './AlongSections';
import { OfferedOfLayer } from './Offered';
import { AxisFields, FontField } from './FontField';
import { FromBefore } from './FromBefore';
import { OfState, ownOf } from './OfState';
import { Overrides } from './Overrides';
import { MaskFields } from './MaskFields';
import { MediumFields } from './MediumFields';
import { PlacementFields } from './PlacementFields';
import { PaintEditor } from './PaintEditor';
import { ShadowsEditor } from './ShadowsEditor';
import { TouchOfLayers } from './Touch';
import { GoesRound } from './Undercurrents';
import { firstOf, lastOf } from '../../../shared/known';

/** Everything that the chosen layers have in common, in the state that is being posed. */
export function LayerInspector({ ids }: { ids: readonly string[] }) {
  const {
    document: piece,
    state,
    poses,
    scope,
  } = useBench(useShallow(({ document, state, poses, scope, fresh }) => ({ document, state, poses, scope, fresh })));
  const common = commonOf(piece, poses[state] ?? {}, ids);
  if (!common.length) return null;
  const stateName = stateNamed(piece, state).name;
  const { editsOf, setCorners } = lookEdits(ids);
  return (
    <>
      <small className="quiet">
        {ids.length > 1
          ? 'set in all of them; +40, *0.5 or -10% change each from its own'
          : kindOf(placed(piece, firstOf(ids)).layer)}
      </small>
      <h2>{namesOf(piece, ids)}</h2>
      <p className="quiet">{reachOf(piece, scope, stateName)}</p>
      {ids.length === 1 && <FromBefore id={firstOf(ids)} />}
      <Overrides ids={ids} />
      {ids.length === 1 && placed(piece, firstOf(ids)).layer.kind === 'placement' && (
        <PlacementFields id={firstOf(ids)} />
      )}
      {ids.length === 1 && placed(piece, firstOf(ids)).layer.kind === 'medium' && <MediumFields id={firstOf(ids)} />}
      {ids.length === 1 && <MaskFields id={firstOf(ids)} />}
      {Object.entries(GROUPS).map(([title, open]) => {
        // What a copy says of its original has fields of its own.
        const rows = common.filter(({ property }) => property.group === title && property.blend !== 'placed');
        return (
          rows.length > 0 && (
            <Group key={title} title={title} closed={!open} own={isSaid(piece, state, ids, rows)}>
              {title === 'Corners' && <AllCorners rows={rows} commit={setCorners} />}
              {title === 'Row or column' && <LayoutDiagram id={lastOf(ids)} />}
              {title === 'In its group' && <ResizeDiagram id={lastOf(ids)} />}
              <Rows key={state} {...{ ids, rows, editsOf }} />
            </Group>
          )
        );
      })}
      {ids.length === 1 && <OfferedOfLayer id={firstOf(ids)} values={common} />}
      {ids.length === 1 && <AlongSections key={firstOf(ids)} id={firstOf(ids)} />}
      <GoesRound key={`rounds ${ids.join()}`} ids={ids} />
      <TouchOfLayers ids={ids} />
    </>
  );
}

interface RowsProps {
  ids: readonly string[];
  rows: readonly Common[];
  editsOf: (property: Property, values: readonly Value[]) => Edits;
}

/** A field for each property, or several. */
function Rows({ ids, rows, editsOf }: RowsProps) {
  return (
    <div className="pairs">
      {rows.map(({ property, value, mixed, values }) =>
        property.name === AXES ? (
          <AxisFields key={AXES} ids={ids} />
        ) : (
          <OfState key={property.name} ids={ids} property={property} wide={isWide(property, value)}>
            <PropertyField {...{ ids, property, value, mixed }} {...editsOf(property, values)} />
          </OfState>
        ),
      )}
    </div>
  );
}

/** The edits of the fields, of all these layers in the state that is being posed. */
function lookEdits(ids: readonly string[]) {
  const { document: piece, scope, fresh } = useBench.getState();
  const set = (name: string, value: Value) => looksEdit(Object.fromEntries(ids.map((id) => [id, { [name]: value }])));
  const setCorners = (radius: number) =>
    make(
      looksEdit(Object.fromEntries(ids.map((id) => [id, Object.fromEntries(CORNERS.map((name) => [name, radius]))]))),
    );
  const editsOf = (property: Property, values: readonly Value[]): Edits => ({
    preview: (value) => stage.preview(ids, property.name, value),
    commit: (value) => make(property.varies ? set(property.name, value) : setFixed(piece, ids, property.name, value)),
    ...(ids.length > 1 &&
      isChanged(property) && { each: { values: values as number[], change: change(property.name) } }),
    ...(reaches({ scope, fresh }, ids) === 'state' && {
      clear: () => make(backToBase(piece, ownOf(ids, property.name))),
    }),
  });
  const change = (name: string) => (by: Change) =>
    by(0) === by(1) ? make(set(name, by(0))) : changeLooks(ids, name, by);
  return { editsOf, setCorners };
}

const CORNERS = ['radius_top_left', 'radius_top_right', 'radius_bottom_right', 'radius_bottom_left'];

/** One radius for all four. */
function AllCorners({ rows, commit }: { rows: readonly Common[]; commit: (radius: number) => Promise<void> }) {
  const { value } = firstOf(rows);
  return (
    <NumberField
      label="all corners"
      name="radius of all corners"
      value={Number(value)}
      mixed={rows.some((row) => row.mixed || row.value !== value)}
      commit={commit}
    />
  );
}

/** A placement says itself what it is a copy of. */
const kindOf = ({ kind }: Layer) => (kind === 'placement' ? 'a piece in this piece' : kind);

interface GroupProps {
  title: string;
  closed: boolean;
  /** The state says something of it itself. */
  own: boolean;
  children: ReactNode;
}

const isSaid = (piece: Piece, state: string, ids: readonly string[], rows: readonly Common[]) =>
  ownValues(piece, state, ids).some((cell) => rows.some(({ property }) => property.name === cell.property));

function Group({ title, closed, own, children }: GroupProps) {
  if (!closed) {
    return (
      <section>
        <h3>{title}</h3>
        {children}
      </section>
    );
  }
  return (
    <Fold title={title} marked={own}>
      {children}
    </Fold>
  );
}

type Change = (from: number) => number;

interface Edits {
  commit: (value: Value) => Promise<void>;
  /** Of several layers: what each has, and an edit of each from its own. */
  each?: { values: readonly number[]; change: (by: Change) => Promise<void> };
  /** Back to the base, where there is one behind what is edited. */
  clear?: () => Promise<void>;
  /** Shows a value that is being pulled; null, what is kept. */
  preview: (value: Value | null) => void;
}

interface FieldProps extends Edits {
  ids: readonly string[];
  property: Property;
  value: Value;
  mixed: boolean;
}

/** A pivot that moves takes its layer along, so it is set and never added to. */
const isChanged = ({ varies, blend, name }: Property) => varies && blend === 'linear' && !name.startsWith('pivot');

/** As the trade writes what CSS runs together. */
const CHOICES: Record<string, string> = {
  ...{ evenodd: 'even-odd', nonzero: 'non-zero' },
  ...{ pre: 'as typed', 'pre-wrap': 'wrap in the box' },
};
/** These have the whole width. */
const ALONE = ['rotation', 'opacity', 'view_width', 'view_height'];
const isWide = ({ name, choices }: Property, value: Value) =>
  typeof value !== 'number' || choices.length > 0 || ALONE.includes(name);

function PropertyField(field: FieldProps) {
  const { property, value, mixed, commit, each, clear, preview } = field;
  const label = property.short || property.label;
  if (property.name === FAMILY) return <FontField {...{ ids: field.ids, value: textOf(value), mixed, commit }} />;
  if (property.choices.length) return <ChoiceField {...field} label={label} />;
  const unit = property.unit === '°' ? '°' : '';
  if (each) {
    return (
      <ChangeField
        label={label}
        name={property.label}
        unit={unit}
        step={property.step}
        values={each.values}
        commit={each.change}
        clear={clear}
      />
    );
  }
  if (typeof value === 'number') {
    return (
      <NumberField
        label={label}
        name={property.label}
        unit={unit}
        step={property.step}
        value={value}
        mixed={mixed}
        commit={commit}
        clear={clear}
      />
    );
  }
  if (typeof value === 'boolean') {
    return (
      <Checkbox
        className="wide"
        checked={value && !mixed}
        indeterminate={mixed}
        onChange={(event) => attemptCommit(commit(event.target.checked))}
      >
        {label}
      </Checkbox>
    );
  }
  if (property.blend === 'paint') return <PaintEditor {...{ label, value, mixed, commit, clear, preview }} />;
  if (property.blend === 'shadows') return <ShadowsEditor {...{ value, commit, preview }} />;
  return <WrittenField {...field} label={label} />;
}

function ChoiceField({ property, value, mixed, commit, label }: FieldProps & { label: string }) {
  return (
    <div className="wide choice">
      <span className="quiet">{label}</span>
      <Choice
        size="small"
        block
        aria-label={property.label}
        {...(!mixed && { value: textOf(value) })}
        options={property.choices.map((choice) => ({ value: choice, label: CHOICES[choice] ?? choice }))}
        onChange={(v) => attemptCommit(commit(v))}
      />
    </div>
  );
}

/** Whatever is written as text. */
function WrittenField({ property, value, mixed, commit, clear, label }: FieldProps & { label: string }) {
  return (
    <div className="wide">
      <TypedField
        label={label}
        name={property.label}
        value={value}
        mixed={mixed}
        format={valueText}
        parse={(text) => parseValue(property, text)}
        commit={commit}
        clear={clear}
      />
    </div>
  );
}

/** What an edit reaches, said before it is made. */
function reachOf(piece: Piece, scope: Scope, stateName: string): string {
  const trait = traitIn(piece, scope);
  if (trait)
    return `Edits reach ${shownOf(trait).name}, an option of ${trait.name}, in every state without a value of its own.`;
  return scope === 'base'
    ? 'Edits reach the base, and so every state without a value of its own.'
    : `Edits reach ${stateName} alone.`;
}
