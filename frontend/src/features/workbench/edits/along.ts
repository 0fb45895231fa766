/* Motion along a section: what follows the way scrolled through it, forwards and back. */
import type { Operation, Piece, Value } from '../../../api/contract';
import { placed, propertiesOf, propertyNamed } from '../tree';
import { known } from '../../../shared/known';
import { freeId, type Edit } from './edit';
import { sectionsOf, type Section } from './sections';

type Undercurrent = NonNullable<Piece['undercurrents']>[number];
type Course = Undercurrent['courses'][number];

/** Of a section: its shares are counted in thousandths. */
const WHOLE = 1000;

/** What one property of a layer goes through along a section, and where that is written. */
export interface Along {
  section: Section;
  course: Course;
  at: [undercurrent: number, course: number];
  /** Of each key, 0–1. */
  shares: number[];
}

export function alongOf(piece: Piece, layer: string): Along[] {
  return (piece.undercurrents ?? []).flatMap(({ section: id, courses, period_ms }, u) => {
    const section = sectionsOf(piece).find((each) => each.id === id);
    if (!section) return [];
    return courses.flatMap((course, c): Along[] => {
      const shares = course.keys.map((key) => (key.at_ms ?? 0) / period_ms);
      return course.layer === layer ? [{ section, course, at: [u, c], shares }] : [];
    });
  });
}

/** The numbers of a layer that nothing else moves all the time. */
export function freeForAlong(piece: Piece, layer: string) {
  const taken = (piece.undercurrents ?? [])
    .flatMap(({ courses }) => courses)
    .filter((course) => course.layer === layer)
    .map(({ property }) => property);
  return propertiesOf(placed(piece, layer).layer).filter(
    ({ name, varies, blend }) => varies && blend === 'linear' && !taken.includes(name),
  );
}

/** From one value to another, between where the top of the section and where its end meets that of the screen. */
export function addAlong(piece: Piece, layer: string, section: Section, property: string, value: Value): Edit {
  const keys = [0, WHOLE].map((at_ms) => ({ at_ms, value }));
  const course = { layer, property, keys };
  const label = `${propertyNamed(property).label} along ${section.name}`;
  const all = piece.undercurrents ?? [];
  const u = all.findIndex((own) => own.section === section.id && !own.states && own.period_ms === WHOLE);
  if (u >= 0) return { label, patch: [{ op: 'add', path: `/undercurrents/${u}/courses/-`, value: course }] };
  const id = freeId(
    all.map((own) => own.id),
    `along-${section.id}`,
  );
  const own = { id, name: `Along ${section.name}`, period_ms: WHOLE, section: section.id, courses: [course] };
  return { label, patch: [{ op: 'add', path: '/undercurrents', value: [...all, own] }] };
}

const pathOf = ({ at: [u, c] }: Along): string => `/undercurrents/${u}/courses/${c}`;

export const setAlong = (along: Along, key: number, value: number): Edit => ({
  label: `${propertyNamed(along.course.property).label} along ${along.section.name}`,
  patch: [{ op: 'replace', path: `${pathOf(along)}/keys/${key}/value`, value }],
});

export function removeAlong(piece: Piece, along: Along): Edit {
  const [u] = along.at;
  const isLast = known(piece.undercurrents?.[u]).courses.length === 1;
  const remove: Operation = { op: 'remove', path: isLast ? `/undercurrents/${u}` : pathOf(along) };
  return { label: `No ${propertyNamed(along.course.property).label} along ${along.section.name}`, patch: [remove] };
}
