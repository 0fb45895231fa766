import { Checkbox } from 'antd';
import type { ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Layer, Piece, Value } from '../../../api/contract';
import { GROUPS, type Property } from '../../../api/generated/catalogue';
import { Fold } from '../../../shared/ui/Fold';
import { NumberField, TypedField } from '../../../shared/ui/Field';
import { parseValue, textOf, valueText } from '../../../shared/text/values';
import { Choice } from '../../../shared/ui/Choice';
import { attemptCommit, make, useBench } from '../bench';
import { commonOf, type Common } from '../chosenLooks';
import { namesOf, setFixed, shownOf, traitIn, type Scope } from '../edits';
import { looksEdit } from '../looks';
import { placed, stateNamed } from '../tree';
import { LayoutDiagram, ResizeDiagram } from './Diagrams';
import { AlongSections } from './AlongSections';
import { ColourField } from './ColourField';
import { OfferedOfLayer } from './Offered';
import { Overrides } from './Overrides';
import { PlacementFields } from './PlacementFields';
import { PaintEditor } from './PaintEditor';
import { ShadowsEditor } from './ShadowsEditor';
import { TouchOfLayers } from './Touch';
import { firstOf, lastOf } from '../../../shared/known';

/** Everything that the chosen layers have in common, in the state that is being posed. */
export function LayerInspector({ ids }: { ids: readonly string[] }) {
  const {
    document: piece,
    state,
    poses,
    scope,
  } = useBench(useShallow(({ document, state, poses, scope }) => ({ document, state, poses, scope })));
  const common = commonOf(piece, poses[state] ?? {}, ids);
  if (!common.length) return null;
  const stateName = stateNamed(piece, state).name;
  const set = (name: string, value: Value) => looksEdit(Object.fromEntries(ids.map((id) => [id, { [name]: value }])));
  const setCorners = (radius: number) =>
    make(
      looksEdit(Object.fromEntries(ids.map((id) => [id, Object.fromEntries(CORNERS.map((name) => [name, radius]))]))),
    );
  const commit = (property: Property) => (value: Value) =>
    make(property.varies ? set(property.name, value) : setFixed(piece, ids, property.name, value));
  return (
    <>
      <small className="quiet">
        {ids.length > 1
          ? 'several layers: what is set here is set in all of them'
          : kindOf(placed(piece, firstOf(ids)).layer)}
      </small>
      <h2>{namesOf(piece, ids)}</h2>
      <p className="quiet">{reachOf(piece, scope, stateName)}</p>
      <Overrides ids={ids} />
      {ids.length === 1 && placed(piece, firstOf(ids)).layer.kind === 'placement' && (
        <PlacementFields id={firstOf(ids)} />
      )}
      {Object.entries(GROUPS).map(([title, open]) => {
        // What a copy says of its original has fields of its own.
        const rows = common.filter(({ property }) => property.group === title && property.blend !== 'placed');
        return (
          rows.length > 0 && (
            <Group key={title} title={title} closed={!open}>
              {title === 'Corners' && <AllCorners rows={rows} commit={setCorners} />}
              {title === 'Row or column' && <LayoutDiagram id={lastOf(ids)} />}
              {title === 'In its group' && <ResizeDiagram id={lastOf(ids)} />}
              <div className="pairs">
                {rows.map(({ property, value, mixed }) => (
                  <PropertyField
                    key={`${state}${property.name}`}
                    property={property}
                    value={value}
                    mixed={mixed}
                    commit={commit(property)}
                  />
                ))}
              </div>
            </Group>
          )
        );
      })}
      {ids.length === 1 && <OfferedOfLayer id={firstOf(ids)} values={common} />}
      {ids.length === 1 && <AlongSections key={firstOf(ids)} id={firstOf(ids)} />}
      <TouchOfLayers ids={ids} />
    </>
  );
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

function Group({ title, closed, children }: { title: string; closed: boolean; children: ReactNode }) {
  if (!closed) {
    return (
      <section>
        <h3>{title}</h3>
        {children}
      </section>
    );
  }
  return <Fold title={title}>{children}</Fold>;
}

interface FieldProps {
  property: Property;
  value: Value;
  mixed: boolean;
  commit: (value: Value) => Promise<void>;
}

/** As the trade writes what CSS runs together. */
const CHOICES: Record<string, string> = { evenodd: 'even-odd', nonzero: 'non-zero' };
/** These have the whole width. */
const ALONE = ['rotation', 'opacity'];

function PropertyField(field: FieldProps) {
  const { property, value, mixed, commit } = field;
  const label = property.short || property.label;
  if (property.choices.length) return <ChoiceField {...field} label={label} />;
  if (typeof value === 'number') {
    return (
      <NumberField
        wide={ALONE.includes(property.name)}
        label={label}
        name={property.label}
        unit={property.unit === '°' ? '°' : ''}
        step={property.step}
        value={value}
        mixed={mixed}
        commit={commit}
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
  if (property.blend === 'paint') return <PaintEditor label={label} value={value} mixed={mixed} commit={commit} />;
  if (property.blend === 'shadows') return <ShadowsEditor value={value} commit={commit} />;
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

/** A colour, or whatever else is written as text. */
function WrittenField({ property, value, mixed, commit, label }: FieldProps & { label: string }) {
  if (property.blend === 'colour') {
    return (
      <div className="wide">
        <ColourField label={label} value={textOf(value)} mixed={mixed} commit={commit} />
      </div>
    );
  }
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
