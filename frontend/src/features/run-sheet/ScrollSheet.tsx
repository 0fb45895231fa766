import { Flex } from 'antd';
import { Fragment, type ReactNode } from 'react';
import { area, line } from '../../shared/drawing/paint';
import { PlainButton } from '../../shared/ui/PlainButton';
import type { Piece } from '../../api/contract';
import {
  AlongSections,
  choose,
  edits,
  labelOf,
  LoopStage,
  propertyNamed,
  stateNamed,
  transitionNamed,
  useBench,
  useSize,
} from '../workbench';
import { fitted, rulerStep } from './model';
import { ROW_H } from './rowHeight';
import { cuesOnWay, farthest, sectionsOnWay, type Stretch } from './scroll';
import { NAMES_W } from './Sheet';

const H = 92;
/** px at the right that stay free, for the figure at the end of the ruler */
const END = 26;

/** The way scrolled as the axis, which `axis` takes back. */
export function ScrollSheet({ axis }: { axis: ReactNode }) {
  const layer = useBench((b) => b.layer);
  const moves = useBench((b) => layer !== null && edits.alongOf(b.document, layer).length > 0);
  return (
    <div className="sheet-body">
      <main className="sheet-main">
        <Way />
        <Flex component="footer" align="center" gap={12} className="foot" style={{ height: 44 }}>
          {axis}
          <span className="quiet ellipsis">In Rehearse you scroll it by wheel, finger and keys</span>
        </Flex>
      </main>
      <Flex vertical gap={9} component="aside" className="sheet-side inspector" aria-label="Inspector">
        <LoopStage />
        {layer !== null && moves ? (
          <AlongSections key={layer} id={layer} />
        ) : (
          <p className="quiet">Choose a row for the values that it goes through.</p>
        )}
      </Flex>
    </div>
  );
}

/** Its sections, where they set something off, and what moves along them. */
function Way() {
  const piece = useBench((b) => b.document);
  const { ref, size } = useSize<HTMLDivElement>();
  const width = Math.max(size.width - NAMES_W - END, 100);
  const far = farthest(piece);
  const x = (px: number) => (px / Math.max(far, 1)) * width;
  const sections = sectionsOnWay(piece);
  return (
    <div className="sheet" ref={ref}>
      <svg className="axis" height={H} width={width + END} role="img" aria-label={`${far} px can be scrolled`}>
        <text className="named" x={0} y={15}>
          {far} px can be scrolled
        </text>
        <Ruler far={far} x={x} width={width} />
        {sections.map((section, i) => (
          <Section key={section.id} section={section} x={x} odd={i % 2 > 0} />
        ))}
        <Cues piece={piece} x={x} />
      </svg>
      <ul className="bare-list sheet-rows" aria-label="What moves with the scroll">
        <Motions piece={piece} sections={sections} x={x} width={width} />
      </ul>
    </div>
  );
}

type X = (px: number) => number;

function Ruler({ far, x, width }: { far: number; x: X; width: number }) {
  const step = rulerStep(far, width);
  return Array.from({ length: Math.floor(far / step) + 1 }, (_, i) => i * step).map((px) => (
    <Fragment key={px}>
      <line {...line('grid')} x1={x(px)} x2={x(px)} y1={38} y2={H} />
      <text className="figure" x={x(px) + 3} y={36}>
        {px}
      </text>
    </Fragment>
  ));
}

function Section({ section: { name, from_px, to_px }, x, odd }: { section: Stretch; x: X; odd: boolean }) {
  const wide = x(to_px) - x(from_px);
  return (
    <g>
      <rect {...area(odd ? 'glass' : 'brass')} x={x(from_px)} y={54} width={wide} height={3} />
      <text className="named" x={x(from_px) + 2} y={79}>
        {fitted(name, wide)}
      </text>
      <title>{`${name}, ${from_px} to ${to_px} px`}</title>
    </g>
  );
}

/** Where, on the way down, a section sets a transition off. */
function Cues({ piece, x }: { piece: Piece; x: X }) {
  return cuesOnWay(piece).map(({ transition, section, comes, at_px }) => {
    const { from, to } = transitionNamed(piece, transition);
    const way = `${stateNamed(piece, from).name} to ${stateNamed(piece, to).name}`;
    return (
      <path key={transition} {...area('coral')} transform={`translate(${x(at_px)} 50)`} d="M0 0L-4.5 -8H4.5Z">
        <title>{`${section} ${comes ? 'comes into view' : 'goes out of view'} at ${Math.round(at_px)} px: ${way}`}</title>
      </path>
    );
  });
}

function Motions({ piece, sections, x, width }: { piece: Piece; sections: readonly Stretch[]; x: X; width: number }) {
  const chosen = useBench((b) => b.layer);
  const layers = [...new Set((piece.undercurrents ?? []).flatMap((own) => own.courses.map(({ layer }) => layer)))];
  const all = layers.flatMap((layer) => edits.alongOf(piece, layer));
  if (!all.length) return <li className="hint">Nothing moves with the scroll yet. Choose a layer on the workbench.</li>;
  return all.map(({ at, course, section, shares }) => {
    const stretch = sections.find(({ id }) => id === section.id);
    if (!stretch) return null;
    const [label, name] = [propertyNamed(course.property).label, labelOf(piece, course.layer)];
    const values = course.keys.map(({ value }, i) => `${String(value)} at ${Math.round((shares[i] ?? 0) * 100)} %`);
    const told = `${name} ${label} through ${section.name}: ${values.join(', ')}`;
    return (
      <Flex key={at.join()} component="li">
        <span className="voice-name">
          <PlainButton
            className="ellipsis"
            aria-pressed={chosen === course.layer}
            title={told}
            onClick={() => choose({ layer: course.layer })}
          >
            {name}
          </PlainButton>
          <span className="quiet">{label}</span>
        </span>
        <svg width={width + END} height={ROW_H} role="img" aria-label={told}>
          <line {...line('grid')} x1={0} x2={width + END} y1={ROW_H - 0.5} y2={ROW_H - 0.5} />
          <rect
            {...area('glass')}
            x={x(stretch.from_px)}
            y={8}
            width={Math.max(x(stretch.to_px) - x(stretch.from_px), 2)}
            height={11}
          >
            <title>{told}</title>
          </rect>
        </svg>
      </Flex>
    );
  });
}
