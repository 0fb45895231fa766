import { Flex } from 'antd';
import { memo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Value } from '../../../api/contract';
import { Cut } from '../../../shared/ui/Cut';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { swatchOf, valueText } from '../../../shared/text/values';
import { useBench } from '../bench';
import { choose } from '../choosing';
import { goToOriginal, labelIn, originalOf } from '../placements';
import { placeOf, propertyNamed } from '../tree';
import { look, useView } from '../view';
import { POSED, SAME } from './looks';

interface Props {
  layer: string;
  property: string;
  /** The first row of its layer carries the name. */
  first: boolean;
  inner: boolean;
}

/** Whose property a row shows; a copy opens here, and from what is in it one goes to its original. */
export const RowHead = memo(function RowHead({ layer, property, first, inner }: Props) {
  const [copy = layer] = layer.split('/');
  return (
    <th scope="row" onClick={() => choose({ layer: copy })}>
      <Flex justify="space-between" gap={4}>
        {first && (inner ? <InnerName layer={layer} copy={copy} /> : <OwnName layer={layer} />)}
        {!first && <span />}
        <span className="quiet ellipsis" style={{ flex: 'none', maxWidth: 88 }}>
          {propertyNamed(property).label}
        </span>
      </Flex>
    </th>
  );
});

function OwnName({ layer }: { layer: string }) {
  const name = useBench((b) => labelIn(b, layer));
  const isLed = useBench((b) => {
    const found = placeOf(b.document, layer)?.layer;
    return found?.kind === 'placement' && found.life !== 'free';
  });
  return (
    <Flex className="ellipsis" style={{ minWidth: 0 }}>
      {isLed && <Fold copy={layer} name={name} />}
      <strong style={{ minWidth: 0 }}>
        <Cut name={name} />
      </strong>
    </Flex>
  );
}

function Fold({ copy, name }: { copy: string; name: string }) {
  const opened = useView(useShallow((v) => v.opened));
  const isOpen = opened.includes(copy);
  return (
    <PlainButton
      style={{ padding: '0 4px 0 0' }}
      aria-expanded={isOpen}
      aria-label={`What is in ${name}`}
      title={isOpen ? 'Close what is in it' : 'What changes in it, as its original says'}
      onClick={(event) => {
        event.stopPropagation();
        look({ opened: isOpen ? opened.filter((id) => id !== copy) : [...opened, copy] });
      }}
    >
      {isOpen ? '▾' : '▸'}
    </PlainButton>
  );
}

function InnerName({ layer, copy }: { layer: string; copy: string }) {
  const name = useBench((b) => labelIn(b, layer).split(' › ').at(-1) ?? '');
  const original = useBench((b) => originalOf(b, copy)?.name ?? '');
  return (
    <PlainButton
      className="ellipsis"
      style={{ padding: '0 0 0 14px', minWidth: 0 }}
      aria-label={`${name}, to its original ${original}`}
      title={`${name} is changed in its original: go to ${original}`}
      onClick={(event) => {
        event.stopPropagation();
        goToOriginal(useBench.getState().document, copy);
      }}
    >
      {name}
    </PlainButton>
  );
}

const PATCH = { width: 9, height: 9, marginRight: 4, border: '1px solid var(--hairline)', display: 'inline-block' };

/** A value of what lies in a copy: it is read here, and changed in the original. */
export function InnerCell({ property, value, look }: { property: string; value: Value; look: number }) {
  const info = propertyNamed(property);
  const swatch = look & SAME ? null : swatchOf(info, value);
  return (
    <td className={`cell read${look & POSED ? ' posed' : ''}`} title="From the original">
      {swatch && <span style={{ ...PATCH, background: swatch }} />}
      {look & SAME ? '·' : valueText(value, typeof value === 'number' ? info.unit : '')}
    </td>
  );
}
