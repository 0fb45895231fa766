/* Sections: the parts of a content that is longer than its screen. */
import type { Operation, Piece } from '../../../api/contract';
import { walk } from '../tree';
import { freeId, type Edit } from './edit';

export type Section = NonNullable<Piece['sections']>[number];

export const sectionsOf = (piece: Piece): readonly Section[] => piece.sections ?? [];

/** Each section with where it begins and ends, px from the top of the content. */
export function placesOf(sections: readonly Section[]): (Section & { top: number; bottom: number })[] {
  let top = 0;
  return sections.map((section) => ({ ...section, top, bottom: (top += section.height) }));
}

const withSections = (sections: readonly Section[], label: string, more: Operation[] = []): Edit => ({
  label,
  patch: [...more, { op: 'add', path: '/sections', value: sections }],
});

/** One screen more. The first one is the screen itself and one more below it, so that there is something to scroll. */
export function addSection(piece: Piece): Edit {
  const all = [...sectionsOf(piece)];
  const taken = new Set([...walk(piece.layers ?? []).map((p) => p.layer.id), ...all.map(({ id }) => id)]);
  const count = all.length ? 1 : 2;
  for (let n = 0; n < count; n++) {
    const name = `Section ${all.length + 1}`;
    const id = freeId(taken, name);
    taken.add(id);
    all.push({ id, name, height: piece.height });
  }
  return withSections(all, count > 1 ? 'Let it scroll' : 'Add section');
}

export const changeSection = (piece: Piece, id: string, values: Partial<Omit<Section, 'id'>>): Edit =>
  withSections(
    sectionsOf(piece).map((section) => (section.id === id ? { ...section, ...values } : section)),
    `${Object.keys(values).join(', ')} of ${sectionsOf(piece).find((section) => section.id === id)?.name ?? id}`,
  );

/** What waited for it is heard anywhere on the piece, and what followed it goes by time. */
export function removeSection(piece: Piece, { id, name }: Section): Edit {
  const unaimed = (piece.transitions ?? []).flatMap((transition, t): Operation[] =>
    transition.cue_layer === id ? [{ op: 'add', path: `/transitions/${t}/cue_layer`, value: null }] : [],
  );
  const byTime = (piece.undercurrents ?? []).flatMap((undercurrent, u): Operation[] =>
    undercurrent.section === id ? [{ op: 'add', path: `/undercurrents/${u}/section`, value: null }] : [],
  );
  const kept = sectionsOf(piece).filter((section) => section.id !== id);
  return withSections(kept, `Delete ${name}`, [...unaimed, ...byTime]);
}
