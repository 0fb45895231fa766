import { useRef } from 'react';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { readPicture } from '../artwork';
import { sayFault } from '../bench';

interface Props {
  label: string;
  /** A data: URL. */
  value: string;
  commit: (source: string) => Promise<void>;
}

/** A picture as it looks, and another from a file. */
export function PictureField({ label, value, commit }: Props) {
  const file = useRef<HTMLInputElement>(null);
  const take = async (input: HTMLInputElement) => {
    const chosen = input.files?.[0];
    // The same file may be chosen again.
    input.value = '';
    if (!chosen) return;
    try {
      await commit((await readPicture(chosen)).source);
    } catch (error) {
      sayFault(error);
    }
  };
  return (
    <div className="picture-field">
      <span className="field-label">{label}</span>
      <img src={value} alt="" />
      <PlainButton onClick={() => known(file.current).click()}>choose…</PlainButton>
      <input
        ref={file}
        type="file"
        hidden
        accept="image/png,image/jpeg,image/webp"
        aria-label={`File for ${label}`}
        onChange={(event) => void take(event.target)}
      />
    </div>
  );
}
