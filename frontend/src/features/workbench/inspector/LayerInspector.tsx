import { Segmented } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import type { Value } from '../../../api/answers';
import type { Property } from '../../../api/generated/catalogue';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { attemptCommit, make, useBench } from '../bench';
import { setFixed, setValues } from '../edits';
import { placed, propertiesOf } from '../tree';

const GROUPS: [string, RegExp][] = [
  ['Content', /^(text|path|view_.*)$/],
  ['Place', /^(x|y|width|height)$/],
  ['Turn and scale', /^(rotation|scale_.|pivot_.)$/],
  ['Look', /^(opacity|fill|stroke|stroke_width|stroke_cap|stroke_join)$/],
  ['Corners', /^radius_/],
  ['Letters', /^(font_.*|text_align)$/],
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
      {GROUPS.map(([title, pattern]) => {
        const rows = propertiesOf(layer).filter((p) => pattern.test(p.name));
        return (
          rows.length > 0 && (
            <section key={title}>
              <h3>{title}</h3>
              <div className="pairs">
                {rows.map((property) => (
                  <PropertyField key={`${state}${property.name}`} property={property} value={look[property.name]!} commit={commit(property)} />
                ))}
              </div>
            </section>
          )
        );
      })}
    </>
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
  const swatch = property.blend === 'colour' && <span className="colour-swatch" style={{ background: value === 'none' ? 'transparent' : value }} />;
  return (
    <div className="wide">
      <TextField label={label} name={property.label} value={value} before={swatch} commit={commit} />
    </div>
  );
}
