/** Longer ones are cut in the middle where they do not fit; letters that stay at the end. */
const [LONG, TAIL] = [18, 7];

/** A name in a list. Names that begin alike mostly differ at their ends, so that the end is always shown. */
export function Cut({ name }: { name: string }) {
  if (name.length <= LONG)
    return (
      <span className="ellipsis" style={{ display: 'block' }} title={name}>
        {name}
      </span>
    );
  return (
    <span className="cut" title={name}>
      <span className="ellipsis">{name.slice(0, -TAIL)}</span>
      <span>{name.slice(-TAIL)}</span>
    </span>
  );
}
