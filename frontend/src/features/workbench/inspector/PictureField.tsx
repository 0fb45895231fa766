import { readPicture } from '../artwork';
import { FileButton } from './FileButton';

interface Props {
  label: string;
  /** A data: URL. */
  value: string;
  commit: (source: string) => Promise<void>;
}

/** A picture as it looks, and another from a file. */
export function PictureField({ label, value, commit }: Props) {
  return (
    <div className="picture-field">
      <span className="field-label">{label}</span>
      <img src={value} alt="" />
      <FileButton
        label={`File for ${label}`}
        accept="image/png,image/jpeg,image/webp"
        take={async (file) => commit((await readPicture(file)).source)}
      >
        choose…
      </FileButton>
    </div>
  );
}
