import { useRef } from 'react';
import { known } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { sayFault } from '../bench';

interface Props {
  /** Said of the hidden field. */
  label: string;
  accept: string;
  children: string;
  take: (file: File) => Promise<void>;
}

/** Takes a file; what is wrong with it is said across the top. */
export function FileButton({ label, accept, children, take }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const chosen = async (input: HTMLInputElement) => {
    const file = input.files?.[0];
    // The same file may be chosen again.
    input.value = '';
    if (!file) return;
    try {
      await take(file);
    } catch (error) {
      sayFault(error);
    }
  };
  return (
    <>
      <PlainButton onClick={() => known(field.current).click()}>{children}</PlainButton>
      <input
        ref={field}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(event) => void chosen(event.target)}
      />
    </>
  );
}
