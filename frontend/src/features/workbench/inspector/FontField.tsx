import { Select } from 'antd';
import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { FontFacts, SharedFont, Value } from '../../../api/contract';
import { api } from '../../../api/client';
import { FONTS } from '../../../api/generated/catalogue';
import { known } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';
import { NumberField } from '../../../shared/ui/Field';
import { attemptCommit, makeNext, sayFault, useBench } from '../bench';
import { reaches } from '../chosen';
import { AXES, axisPlaces, setAxis } from '../edits';
import { FONT_FILES, takeFont, takeShared } from '../fonts';
import { propertyNamed } from '../tree';
import { FileButton } from './FileButton';
import { OfState } from './OfState';

interface Props {
  ids: readonly string[];
  value: string;
  mixed: boolean;
  commit: (family: Value) => Promise<void>;
}

/** The family of texts: one that is shipped, one that the piece brings, or one that another piece does. */
export function FontField({ ids, value, mixed, commit }: Props) {
  const fonts = useBench((b) => b.fonts);
  const [shared, setShared] = useState<readonly SharedFont[]>([]);
  const others = shared.filter(({ family }) => !fonts[family]);
  const own = Object.keys(fonts);
  const shown = (family: string) => ({
    value: family,
    label: <span style={{ fontFamily: JSON.stringify(family) }}>{family}</span>,
  });
  const groups = [
    { label: 'Always there', options: FONTS.map(shown) },
    ...(own.length ? [{ label: 'In this piece', options: own.map(shown) }] : []),
    ...(others.length
      ? [
          {
            label: 'In other pieces',
            options: others.map(({ family, name }) => ({ value: family, label: `${family}, from ${name}` })),
          },
        ]
      : []),
  ];
  const choose = (family: string) => {
    const other = others.find((each) => each.family === family);
    if (other) void takeShared(family, other.piece, ids).catch(sayFault);
    else void attemptCommit(commit(family));
  };
  const look = async (open: boolean) => {
    // What cannot be asked for is not offered; all else is there.
    if (open) setShared((await api.sharedFonts().catch(() => ({ fonts: [] }))).fonts);
  };
  return (
    <div className="wide">
      <div className="font-field">
        <span className="field-label">family</span>
        <Select
          size="small"
          aria-label="family"
          popupMatchSelectWidth={260}
          {...(mixed ? { placeholder: 'several' } : { value })}
          options={groups}
          onChange={choose}
          onOpenChange={(open) => void look(open)}
        />
        <FileButton label="Font file" accept={FONT_FILES} take={async (file) => void (await takeFont(file, ids))}>
          bring in…
        </FileButton>
      </div>
      {!mixed && <FontNotes ids={ids} family={value} facts={fonts[value]} />}
    </div>
  );
}

const MOST_LETTERS = 12;

/** What is not seen at once: weights that there are, letters that there are not, what may not be sent. */
function FontNotes({ ids, family, facts }: { ids: readonly string[]; family: string; facts: FontFacts | undefined }) {
  const lacking = useBench(
    useShallow((b) => b.lacking.filter((each) => ids.includes(each.layer) && each.family === family)),
  );
  const letters = [...new Set(lacking.flatMap((each) => [...each.letters]))];
  const more = letters.length > MOST_LETTERS ? ` and ${letters.length - MOST_LETTERS} more` : '';
  return (
    <>
      {letters.length > 0 && (
        <p className="warning" role="status">
          {`${family} has no ${letters.slice(0, MOST_LETTERS).join(' ')}${more}: some other font shows ${letters.length > 1 ? 'them' : 'it'}, on each device another.`}
        </p>
      )}
      {facts && <small className="quiet">{weightsOf(facts)}</small>}
      {facts && !facts.may_be_sent && (
        <p className="warning">This font forbids embedding: what you hand off names it, and does not contain it.</p>
      )}
    </>
  );
}

/** “weights 400, 700; of what lies between, the nearest is shown”. */
export function weightsOf({ files }: FontFacts): string {
  const spans = [...new Set(files.map(({ weights: [low, high] }) => (low === high ? `${low}` : `${low} to ${high}`)))];
  const inOrder = spans.sort((a, b) => parseFloat(a) - parseFloat(b)).join(', ');
  const isFixed = !inOrder.includes('to');
  return `weight${spans.length > 1 || !isFixed ? 's' : ''} ${inOrder}${isFixed ? '; for any other the nearest is shown' : ''}`;
}

/** A field for each axis of a variable font; of its weight, as of every text, there is one already. */
export function AxisFields({ ids }: { ids: readonly string[] }) {
  const bench = useBench(
    useShallow(({ fonts, poses, state, scope, fresh }) => ({ fonts, poses, state, scope, fresh })),
  );
  const looks = ids.map((id) => known(bench.poses[bench.state]?.[id]));
  const families = new Set(looks.map((look) => textOf(look.font_family)));
  const axes = families.size === 1 ? bench.fonts[known([...families][0])]?.axes : undefined;
  if (!axes?.length) return null;
  const at = (tag: string) =>
    looks.map((look) => known(axisPlaces(known(look[AXES]), axes).find(({ axis }) => axis === tag)).value);
  return (
    <OfState ids={ids} property={propertyNamed(AXES)} wide>
      <div className="pairs">
        {axes.map((axis) => {
          const places = at(axis.tag);
          const set = (value: number) =>
            makeNext((piece) =>
              setAxis(piece, bench.state, ids, {
                ...{ tag: axis.tag, axes, scope: reaches(bench, ids) },
                value: Math.min(Math.max(value, axis.low), axis.high),
              }),
            );
          return (
            <div
              key={axis.tag}
              title={`${axis.name}: ${axis.low} to ${axis.high}, ${axis.default} where nothing is set`}
            >
              <NumberField
                label={axis.name.toLowerCase()}
                name={`axis ${axis.name}`}
                value={known(places[0])}
                mixed={new Set(places).size > 1}
                step={axis.high - axis.low > 10 ? 1 : 0.05}
                commit={set}
                clear={() => set(axis.default)}
              />
            </div>
          );
        })}
      </div>
    </OfState>
  );
}
