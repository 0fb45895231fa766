/* SVG elements, made whole. */

type Tags = SVGElementTagNameMap;

export function svg<K extends keyof Tags>(
  name: K,
  attributes: Readonly<Record<string, string | number>> = {},
  ...inside: Element[]
): Tags[K] {
  const made = document.createElementNS('http://www.w3.org/2000/svg', name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, String(value));
  made.append(...inside);
  return made;
}
