/* The fonts that a piece brings, made known to the browser while it is shown. */
import type { FontFacts, FontSource } from '../../api/contract';

const shown = new Map<string, FontFace>();

/** Shows texts in these families, and in no others that were brought before. */
export function showFonts(fonts: Readonly<Record<string, FontFacts>>): void {
  const wanted = new Map<string, { family: string; file: FontSource }>(
    Object.entries(fonts).flatMap(([family, { files }]) =>
      files.map((file) => [`${family}|${file.characters}|${file.source}`, { family, file }] as const),
    ),
  );
  for (const [key, face] of shown) {
    if (wanted.has(key)) continue;
    document.fonts.delete(face);
    shown.delete(key);
  }
  for (const [key, { family, file }] of wanted) {
    if (shown.has(key) || !file.characters) continue;
    const face = faceOf(family, file);
    shown.set(key, face);
    document.fonts.add(face);
  }
}

function faceOf(family: string, { source, weights: [low, high], characters }: FontSource): FontFace {
  const data = Uint8Array.from(atob(source.slice(source.indexOf(',') + 1)), (letter) => letter.charCodeAt(0));
  const weight = low === high ? String(low) : `${low} ${high}`;
  return new FontFace(family, data, { weight, unicodeRange: characters });
}
