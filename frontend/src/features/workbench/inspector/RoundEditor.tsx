import { Flex } from 'antd';
import { useMemo, useState } from 'react';
import type { Value } from '../../../api/contract';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { stepped } from '../../../shared/ui/hands';
import { textOf, valueText } from '../../../shared/text/values';
import { known, lastOf } from '../../../shared/known';
import { attempt, attemptCommit, make, makeNext, useBench } from '../bench';
import * as edits from '../edits';
import { isGradient, roundsOf, undercurrentOf, type Key, type Round, type Undercurrent } from '../edits';
import { placed, propertyNamed } from '../tree';
import { easingOf } from './bezier';
import { ColourField } from './ColourField';
import { KeyAxis } from './KeyAxis';
import { PaintEditor } from './PaintEditor';
import { curveOf, valueAt } from './periods';

interface Props {
  own: Undercurrent;
  at: number;
}

/** What one property goes through in a period, in one layer or in several in turn. */
export function RoundEditor({ own, at }: Props) {
  const piece = useBench((b) => b.document);
  const running = useBench((b) => b.run.undercurrents.find(({ id }) => id === own.id));
  const [asked, setChosen] = useState(1);
  const round = known(roundsOf(own)[at]);
  const { keys, property } = round;
  const chosen = Math.min(asked, keys.length - 1);
  const course = known(own.courses[known(round.at[0])]);
  const { label } = propertyNamed(property);
  const names = round.layers.map((id) => placed(piece, id).layer.name);
  const told = `${label} of ${names.length > 3 ? `${names.length} layers` : names.join(', ')}`;
  const curve = useMemo(() => curveOf(running, own, course), [running, own, course]);
  const { set, remove, add, move, nudge } = handsOn(own, at, told, setChosen);
  const addAt = (ms: number) => add(ms, valueAt(running, own, course, ms) ?? known(keys[0]).value);
  const ahead = own.section ? null : (own.phase_ms ?? 0) - (round.offsets[0] ?? 0) + own.period_ms * 1000;
  return (
    <Flex vertical gap={6} component="section" aria-label={told}>
      <div className="own-value">
        <h3 style={{ margin: 0 }}>{told}</h3>
        <PlainButton
          aria-label={`${told} no longer goes round`}
          title="It no longer goes round"
          onClick={() => void attempt(edits.removeRound(piece, own, round))}
        >
          ×
        </PlainButton>
      </div>
      <KeyAxis
        label={told}
        keys={keys}
        period={own.period_ms}
        ahead={ahead}
        curve={curve}
        beside={roundsOf(own).flatMap((other) => (other === round ? [] : other.keys.map((key) => key.at_ms)))}
        chosen={chosen}
        choose={setChosen}
        move={move}
        nudge={nudge}
        add={addAt}
        remove={remove}
      />
      <KeyFields round={round} k={chosen} period={own.period_ms} told={told} set={set} move={move} />
      <KeyButtons
        count={keys.length}
        chosen={chosen}
        add={() => addAt(widestMiddle(keys, own.period_ms))}
        remove={() => remove(chosen)}
      />
      {names.length > 1 && <InTurn own={own} round={round} told={told} />}
      <p className="quiet">{endOf(keys, own.period_ms)}</p>
    </Flex>
  );
}

function InTurn({ own, round, told }: { own: Undercurrent; round: Round; told: string }) {
  const piece = useBench((b) => b.document);
  const each = edits.turnOf(round);
  return (
    <NumberField
      label="each layer later by"
      name={`${told}, each later by`}
      unit="ms"
      step={10}
      wide
      value={each ?? 0}
      mixed={each === null}
      commit={(ms) => make(edits.setTurn(piece, own, round, ms))}
    />
  );
}

interface ButtonsProps {
  count: number;
  chosen: number;
  add: () => void;
  remove: () => void;
}

function KeyButtons({ count, chosen, add, remove }: ButtonsProps) {
  const cannot = chosen === 0 ? 'The first key begins the period' : count < 3 ? 'Two keys are the least' : null;
  return (
    <Flex wrap gap={4}>
      <PlainButton
        title="In the middle of the longest way between two keys; a double click on the axis adds one there"
        onClick={add}
      >
        + key
      </PlainButton>
      <PlainButton disabled={cannot !== null} title={cannot ?? 'Delete'} onClick={remove}>
        delete key
      </PlainButton>
    </Flex>
  );
}

function endOf(keys: readonly Key[], period: number): string {
  if (edits.closes(keys, period)) return 'It ends as it began, so it goes round without a jump.';
  const [first, last] = [known(keys[0]).value as Value, lastOf(keys).value as Value];
  if (isGradient(first)) return 'At the end it jumps to the gradient of its first key.';
  return `At the end it jumps from ${valueText(last)} to ${valueText(first)}.`;
}

/** What is done with its keys; held keys go on from those on their way. */
function handsOn(own: Undercurrent, at: number, told: string, setChosen: (k: number) => void) {
  const change = (what: string, build: (keys: readonly Key[], period: number) => readonly Key[]) =>
    makeNext((piece) => {
      const now = known(undercurrentOf(piece, own.id));
      const round = known(roundsOf(now)[at]);
      return edits.setKeys(piece, now, round, what, build(round.keys, now.period_ms));
    });
  const set = (k: number, fields: Partial<Key>) =>
    change(`Key of ${told}`, (keys) =>
      'value' in fields
        ? edits.alikeKeys(keys, k, fields.value as Value)
        : keys.map((key, i) => (i === k ? { ...key, ...fields } : key)),
    );
  const move = (k: number, ms: number) =>
    attemptCommit(change(`Move a key of ${told}`, (keys, period) => edits.movedKey(keys, k, ms, period)));
  const nudge = (k: number, by: number) =>
    void attemptCommit(
      stepped(() =>
        change(`Move a key of ${told}`, (keys, period) => edits.movedKey(keys, k, known(keys[k]).at_ms + by, period)),
      ),
    );
  const add = (ms: number, value: unknown) => {
    const found = edits.withKey(known(roundsOf(own)[at]).keys, ms, value as Value);
    if (!found) return;
    setChosen(found.at);
    void attemptCommit(change(`Add a key to ${told}`, () => found.keys));
  };
  const remove = (k: number) => {
    if (k === 0 || known(roundsOf(own)[at]).keys.length < 3) return;
    setChosen(k - 1);
    void attemptCommit(change(`Delete a key of ${told}`, (keys) => keys.filter((_, i) => i !== k)));
  };
  return { set, move, nudge, add, remove };
}

interface KeyProps {
  round: Round;
  k: number;
  period: number;
  told: string;
  set: (k: number, fields: Partial<Key>) => Promise<void>;
  move: (k: number, at_ms: number) => Promise<void>;
}

/** The chosen key in numbers. */
function KeyFields({ round, k, period, told, set, move }: KeyProps) {
  const key = known(round.keys[k]);
  const info = propertyNamed(round.property);
  const value = key.value as Value;
  const isLast = k === round.keys.length - 1 && key.at_ms === period;
  return (
    <div className="pairs">
      <NumberField
        label={`key ${k + 1} at`}
        name={`key ${k + 1} of ${told}, at`}
        unit="ms"
        step={10}
        value={key.at_ms}
        commit={(ms) => move(k, ms)}
      />
      {typeof value === 'number' ? (
        <NumberField
          label="value"
          name={`value of key ${k + 1} of ${told}`}
          unit={info.unit === '°' ? '°' : ''}
          step={info.step}
          value={value}
          commit={(next) => set(k, { value: next })}
        />
      ) : isGradient(value) ? (
        <PaintEditor label={`value of key ${k + 1}`} value={value} commit={(next) => set(k, { value: next })} />
      ) : (
        <ColourField label="value" value={textOf(value)} commit={(next) => set(k, { value: next })} />
      )}
      {!isLast && (
        <div className="wide">
          <TextField
            label="easing to the next"
            value={key.easing ?? 'linear'}
            commit={(next) => set(k, { easing: easingOf(next) })}
          />
        </div>
      )}
    </div>
  );
}

/** ms in the middle of the longest way from one key to the next, or to the end. */
function widestMiddle(keys: readonly Key[], period: number): number {
  const ends = [...keys.slice(1).map((key) => key.at_ms), period];
  const ways = keys.map(({ at_ms }, k) => [known(ends[k]) - at_ms, Math.round((at_ms + known(ends[k])) / 2)] as const);
  return known(ways.sort(([a], [b]) => b - a)[0])[1];
}
