import { useShallow } from 'zustand/react/shallow';
import { clock, labelIn, propertyNamed, useBench } from '../workbench';
import { inkOf, type Mark } from './findings';
import { PlainButton } from '../../shared/ui/PlainButton';

interface Props {
  marks: readonly Mark[];
  choose: (bars: readonly string[]) => void;
}

/** What is marked on the sheet, as a list: each line leads there. */
export function Marks({ marks, choose }: Props) {
  const bench = useBench(useShallow(({ document, layers }) => ({ document, layers })));
  if (!marks.length) return null;
  const goTo = ({ from_ms, bar }: Mark) => {
    clock.setPlaying(false);
    clock.seek(from_ms);
    if (bar) choose([bar.key]);
  };
  return (
    <section className="marks" aria-label="Worth a look">
      <h3>Worth a look</h3>
      <ul className="bare-list">
        {marks.map((mark) => (
          <li key={mark.key}>
            <PlainButton block onClick={() => goTo(mark)}>
              <i style={{ flex: 'none', width: 8, height: 8, background: `var(--${inkOf(mark)})` }} />
              <span className="mono">{mark.to_ms > mark.from_ms ? `${mark.from_ms}–${mark.to_ms}` : mark.from_ms}</span>
              <span>
                {mark.bar && `${labelIn(bench, mark.bar.layer)} ${propertyNamed(mark.bar.property).label} `}
                {mark.says}
              </span>
            </PlainButton>
          </li>
        ))}
      </ul>
    </section>
  );
}
