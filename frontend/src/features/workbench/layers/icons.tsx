import { line } from '../../../shared/drawing/paint';
import type { Layer } from '../../../api/contract';

const PATHS: Record<Layer['kind'], string> = {
  group: 'M2 12V4h4l1.5 2H14v6Z',
  rectangle: 'M3 4h10v8H3Z',
  ellipse: 'M8 3.5a4.5 4.5 0 1 0 .01 0Z',
  path: 'M2.5 11c3-7 5 3 7-1s2.5-4 4-4.5',
  placement: 'M2.5 2.5h8v8h-8ZM5.5 5.5h8v8h-8Z',
  text: 'M3 4h10M8 4v9',
  medium: 'M2.5 3.5h11v9h-11ZM6.5 6v4l3.5 -2Z',
  picture: 'M2.5 3.5h11v9h-11ZM3 11l3-3.5 2.5 2.5 2-2 2.5 3',
};

export function KindIcon({ kind }: { kind: Layer['kind'] }) {
  return (
    <svg width="14" height="14" viewBox="0 0 16 16" aria-hidden="true">
      <path {...line('glass', 1.5)} strokeLinejoin="round" strokeLinecap="round" d={PATHS[kind]} />
    </svg>
  );
}
