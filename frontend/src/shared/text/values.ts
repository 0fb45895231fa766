/* Values of properties as text, and back where they can be typed. */
import equal from 'fast-deep-equal';
import type { AxisPlace, Gradient, Shadow, Value } from '../../api/contract';
import type { Property } from '../../api/generated/catalogue';
import { known } from '../known';
import { parseNumber, parseText } from '../ui/parsing';
import { evaluate, show } from './sums';

/** Numbers bare, colours and texts as they are; what is made of several parts is named. */
export function valueText(value: Value, unit = ''): string {
  if (typeof value === 'number') return show(value, unit);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value;
  if (isList(value)) return listText(value);
  return value.kind === 'fade' ? 'fading' : `${value.kind} gradient`;
}

/** Numbers and texts by themselves, what has parts by all of them. */
export const sameValue: (a: Value | undefined, b: Value | undefined) => boolean = equal;

type List = readonly Shadow[] | readonly AxisPlace[] | readonly number[];
const isList = (value: Value): value is List => Array.isArray(value);
const isAxis = (item: Shadow | AxisPlace | number | undefined): item is AxisPlace =>
  typeof item === 'object' && 'axis' in item;

function listText(list: List): string {
  if (!list.length) return 'none';
  if (isAxis(list[0]))
    return (list as readonly AxisPlace[]).map(({ axis, value }) => `${axis} ${show(value)}`).join(', ');
  if (list.every((item) => typeof item === 'number')) return list.join(' ');
  return list.length === 1 ? '1 shadow' : `${list.length} shadows`;
}

/** Whether the text of a value says all of it. */
export const isTyped = (property: Property): boolean => property.blend !== 'shadows';

/** What a typed text means for the property. */
export function parseValue(property: Property, text: string): { value: Value } | { fault: string } {
  if (property.blend === 'linear' || property.name === 'grow') return parseNumber(text, property.unit);
  if (property.blend === 'layout' && !property.choices.length) return parseNumber(text, property.unit);
  if (property.blend === 'visible') {
    const said = text.trim().toLowerCase();
    return said === 'yes' || said === 'no' ? { value: said === 'yes' } : { fault: 'Type yes or no.' };
  }
  if (property.blend === 'dash') return parseLengths(text);
  if (property.blend === 'axes') return parseAxes(text);
  return parseText(text);
}

function parseLengths(text: string): { value: readonly number[] } | { fault: string } {
  const words =
    text.trim() === 'none'
      ? []
      : text
          .trim()
          .split(/[\s,]+/)
          .filter(Boolean);
  const lengths = words.map((word) => evaluate(word, 'px'));
  return lengths.every((length) => length !== null)
    ? { value: lengths }
    : { fault: 'Type the lengths of dashes and gaps in turn, such as 6 4, or none.' };
}

function parseAxes(text: string): { value: readonly AxisPlace[] } | { fault: string } {
  const parts = text.trim() === 'none' ? [] : text.split(',').filter((part) => part.trim());
  const places = parts.map((part) => {
    const found = /^\s*(\S{4})\s+(\S+)\s*$/.exec(part);
    const value = found ? evaluate(known(found[2]), '') : null;
    return found && value !== null ? { axis: known(found[1]), value } : null;
  });
  return places.every((place) => place !== null)
    ? { value: places }
    : { fault: 'Type the axes of the font with their places, such as wdth 80, slnt -5, or none.' };
}

/** What shows the value as a patch of colour; none for what has no colour. */
export function swatchOf(property: Property, value: Value): string | null {
  if (property.blend !== 'paint') return null;
  if (typeof value === 'string') return value === 'none' ? 'transparent' : value;
  const { stops } = value as Gradient;
  return stops
    ? `linear-gradient(90deg, ${stops.map((stop) => `${stop.colour === 'none' ? 'transparent' : stop.colour} ${stop.at * 100}%`).join(', ')})`
    : null;
}

/** A text, a number or a truth as it is written into styles; nothing for values that have no one text. */
export const textOf = (value: Value | undefined): string =>
  value === undefined || typeof value === 'object' ? '' : String(value);
