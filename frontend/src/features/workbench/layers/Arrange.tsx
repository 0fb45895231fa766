import { Flex } from 'antd';
import { area, line } from '../../../shared/drawing/paint';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { align, arrange, distribute } from '../actions';
import { useBench } from '../bench';
import type { Axis, Line } from '../edits';

/** A line, and two bars that lie on it: drawings of 16 by 16. */
const LINES: [Line, string, string][] = [
  ['left', 'M2.5 2v12', 'M4.5 4h9v2.5h-9ZM4.5 9.5h5v2.5h-5Z'],
  ['centre', 'M8 2v12', 'M3.5 4h9v2.5h-9ZM5.5 9.5h5v2.5h-5Z'],
  ['right', 'M13.5 2v12', 'M2.5 4h9v2.5h-9ZM6.5 9.5h5v2.5h-5Z'],
  ['top', 'M2 2.5h12', 'M4 4.5h2.5v9h-2.5ZM9.5 4.5h2.5v5h-2.5Z'],
  ['middle', 'M2 8h12', 'M4 3.5h2.5v9h-2.5ZM9.5 5.5h2.5v5h-2.5Z'],
  ['bottom', 'M2 13.5h12', 'M4 2.5h2.5v9h-2.5ZM9.5 6.5h2.5v5h-2.5Z'],
];
const GAPS: [Axis, string, string][] = [
  ['across', 'M2 2v12M14 2v12', 'M6.5 4h3v8h-3Z'],
  ['down', 'M2 2h12M2 14h12', 'M4 6.5h8v3h-8Z'],
];

const SHAPES: ['circle' | 'grid', string, string][] = [
  ['circle', 'M8 3a5 5 0 1 1-.01 0', 'M6.5 1.5h3v3h-3ZM1.8 8.5h3v3h-3ZM11.2 8.5h3v3h-3Z'],
  ['grid', 'M8 2v12M2 8h12', 'M3 3h3.4v3.4h-3.4ZM9.6 3h3.4v3.4h-3.4ZM3 9.6h3.4v3.4h-3.4ZM9.6 9.6h3.4v3.4h-3.4Z'],
];

const TIGHT = { padding: '2px 1px' };

/** Chosen layers lined up with each other; one alone with its group, or what is safe of the piece. */
export function Arrange({ count }: { count: number }) {
  const hasSafeArea = useBench((b) => Boolean(b.document.safe_area));
  const whom = count > 1 ? 'each other' : `its group, or the ${hasSafeArea ? 'safe area' : 'piece'}`;
  return (
    <Flex wrap gap={3} className="arrange" style={{ padding: '3px 10px 5px' }} role="group" aria-label="Line up">
      {LINES.map(([line, ...drawing]) => (
        <PlainButton
          key={line}
          style={TIGHT}
          aria-label={`Line up: ${line}`}
          title={`Line up with ${whom}: ${line}`}
          onClick={() => void align(line)}
        >
          <Drawing drawing={drawing} />
        </PlainButton>
      ))}
      {GAPS.map(([axis, ...drawing]) => (
        <PlainButton
          key={axis}
          style={TIGHT}
          disabled={count < 3}
          aria-label={`Even gaps ${axis}`}
          title={count < 3 ? 'Even gaps need three layers' : `Even gaps ${axis}`}
          onClick={() => void distribute(axis)}
        >
          <Drawing drawing={drawing} faint={count < 3} />
        </PlainButton>
      ))}
      {SHAPES.map(([how, ...drawing]) => (
        <PlainButton
          key={how}
          style={TIGHT}
          disabled={count < 3}
          aria-label={how === 'circle' ? 'On a circle' : 'In a grid'}
          title={count < 3 ? `A ${how} needs three layers` : how === 'circle' ? 'On a circle' : 'In a grid'}
          onClick={() => void arrange(how)}
        >
          <Drawing drawing={drawing} faint={count < 3} />
        </PlainButton>
      ))}
    </Flex>
  );
}

const Drawing = ({ drawing: [guide, bars], faint = false }: { drawing: [string, string]; faint?: boolean }) => (
  <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" opacity={faint ? 0.25 : 1}>
    <path {...line('ink', 1.2)} d={guide} />
    <path {...area('glass')} d={bars} />
  </svg>
);
