import { Checkbox, Segmented } from 'antd';
import type { ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Value } from '../../../api/answers';
import type { Property } from '../../../api/generated/catalogue';
import { NumberField, TypedField } from '../../../shared/ui/Field';
import { parseValue, swatchOf, valueText } from '../../../shared/text/values';
import { attemptCommit, make, useBench } from '../bench';
import { setFixed, setValues } from '../edits';
import { placed, propertiesOf } from '../tree';
import { PaintEditor } from './PaintEditor';
import { ShadowsEditor } from './ShadowsEditor';

/** The title of a group, what belongs to it, and whether it is closed until it is asked for. */
const GROUPS: [string, RegExp, boolean][] = [
  ['Content', /^(text|path|fill_rule|view_.*)$/, false],
  ['Place', /^(x|y|width|height)$/, false],
  ['Turn and scale', /^(rotation|scale_.|pivot_.)$/, false],
  ['Look', /^(visible|opacity|fill|stroke|stroke_width)$/, false],
  ['Letters', /^(font_.*|text_align|line_height|letter_spacing)$/, false],
  ['Corners', /^radius_/, true],
  ['Line', /^(stroke_(align|cap|join|dash|dash_offset)|trim_.*)$/, true],
  ['Shadow and blur', /^(shadows|blur)$/, true],
  ['Lean and depth', /^(skew_.|rotation_.|perspective)$/, true],
  ['Picture', /^(fit|focus_.|playhead)$/, true],
  ['Row or column', /^(layout|gap|padding_.|align|justify)$/, true],
  ['In its group', /^(resize_.|grow)$/, true],
];

const SHORT: Record<string, string> = {
  radius_top_left: 'top left',
  radius_top_right: 'top right',
  radius_bottom_right: 'bottom right',
  radius_bottom_left: 'bottom left',
  stroke_width: 'width',
  font_size: 'size',
  font_weight: 'weight',
};

/** Everything that a layer has, in the state that is being posed. */
export function LayerInspector({ id }: { id: string }) {
  const { document: piece, state, poses, scope } = useBench(useShallow(({ document, state, poses, scope }) => ({ document, state, poses, scope })));
  const found = placed(piece!, id);
  const look = poses[state]?.[id];
  if (!found || !look) return null;
  const { layer } = found;
  const stateName = piece!.states.find((s) => s.id === state)!.name;
  const commit = (property: Property) => (value: Value) =>
    property.varies ? make(setValues(piece!, state, id, { [property.name]: value }, scope)) : make(setFixed(piece!, id, property.name, value));
  return (
    <>
      <p className="kicker">{layer.kind}</p>
      <h2>{layer.name}</h2>
      <p className="quiet">{scope === 'base' ? 'Edits reach the base, and so every state without a value of its own.' : `Edits reach ${stateName} alone.`}</p>
      {GROUPS.map(([title, pattern, closed]) => {
        const rows = propertiesOf(layer).filter((p) => pattern.test(p.name));
        return (
          rows.length > 0 && (
            <Group key={title} title={title} closed={closed}>
              <div className="pairs">
                {rows.map((property) => (
                  <PropertyField key={`${state}${property.name}`} property={property} value={look[property.name]!} commit={commit(property)} />
                ))}
              </div>
            </Group>
          )
        );
      })}
    </>
  );
}

function Group({ title, closed, children }: { title: string; closed: boolean; children: ReactNode }) {
  if (!closed) {
    return (
      <section>
        <h3>{title}</h3>
        {children}
      </section>
    );
  }
  return (
    <details>
      <summary>{title}</summary>
      {children}
    </details>
  );
}

interface FieldProps {
  property: Property;
  value: Value;
  commit: (value: Value) => Promise<void>;
}

function PropertyField({ property, value, commit }: FieldProps) {
  const label = SHORT[property.name] ?? property.label;
  if (property.choices.length) {
    return (
      <div className="wide">
        <Segmented size="small" block aria-label={property.label} value={String(value)} options={property.choices} onChange={(v) => attemptCommit(commit(v))} />
      </div>
    );
  }
  if (typeof value === 'number') {
    const alone = property.name === 'rotation' || property.name === 'opacity';
    return <NumberField wide={alone} label={label} name={property.label} unit={property.unit === '°' ? '°' : ''} step={property.unit ? 1 : property.name === 'font_weight' ? 100 : 0.05} value={value} commit={commit} />;
  }
  if (typeof value === 'boolean') {
    return (
      <label className="wide tick">
        <Checkbox checked={value} onChange={(event) => attemptCommit(commit(event.target.checked))} /> {label}
      </label>
    );
  }
  if (property.blend === 'paint') return <PaintEditor label={label} value={value} commit={commit} />;
  if (property.blend === 'shadows') return <ShadowsEditor value={value} commit={commit} />;
  const background = swatchOf(property, value);
  const swatch = background && <span className="colour-swatch" style={{ background }} />;
  return (
    <div className="wide">
      <TypedField label={label} name={property.label} value={value} format={valueText} parse={(text) => parseValue(property, text)} before={swatch} commit={commit} />
    </div>
  );
}
