import { useSpoken } from './speech';

/** Says edits and moves to those who do not see them. */
export function Spoken() {
  const text = useSpoken((s) => s.text);
  return (
    <p className="unseen" aria-live="polite" data-spoken>
      {text}
    </p>
  );
}
