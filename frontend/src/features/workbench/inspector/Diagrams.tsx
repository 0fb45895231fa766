import { area, line } from '../../../shared/drawing/paint';
import type { Look } from '../../../api/contract';
import { useBench } from '../bench';
import { chainTo } from '../../../shared/geometry/matrix';
import { known } from '../../../shared/known';
import { textOf } from '../../../shared/text/values';

const [W, H] = [120, 64];
const ALONE = { display: 'block', margin: '2px auto 8px' };

/** A group as it lays out what is in it, in small: its room, its padding and its content as they are. */
export function LayoutDiagram({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const pose = known(useBench((b) => b.poses[b.state]));
  const group = chainTo(piece.layers ?? [], id).at(-1);
  const look = pose[id];
  if (group?.kind !== 'group' || !look) return null;
  const [width, height] = [Math.max(Number(look.width), 1), Math.max(Number(look.height), 1)];
  const scale = Math.min(W / width, H / height);
  const boxes = (group.layers ?? [])
    .map((child) => pose[child.id])
    .filter((child): child is Look => child !== undefined && Boolean(child.visible));
  const pad = look.layout === 'none' ? [0, 0] : [Number(look.padding_x), Number(look.padding_y)];
  return (
    <svg
      style={ALONE}
      width={width * scale + 2}
      height={height * scale + 2}
      viewBox={`-1 -1 ${width * scale + 2} ${height * scale + 2}`}
      role="img"
      aria-label={`${textOf(look.layout)} of ${boxes.length}`}
    >
      <rect {...area('white', 'ink')} width={width * scale} height={height * scale} />
      <rect
        {...line('hairline', 1, '2 2')}
        x={known(pad[0]) * scale}
        y={known(pad[1]) * scale}
        width={Math.max(width - 2 * known(pad[0]), 0) * scale}
        height={Math.max(height - 2 * known(pad[1]), 0) * scale}
      />
      {boxes.map((box, i) => (
        <rect
          key={i}
          {...area('glass-wash', 'glass')}
          x={Number(box.x) * scale}
          y={Number(box.y) * scale}
          width={Number(box.width) * scale}
          height={Number(box.height) * scale}
        />
      ))}
    </svg>
  );
}

/** What becomes of 30 px at 10 px in a group that grows from 50 to 80 px: place and size, by rule. */
const GROWN: Record<string, [number, number]> = {
  start: [10, 30],
  end: [40, 30],
  both: [10, 60],
  centre: [25, 30],
  scale: [16, 48],
  fixed: [10, 30],
};

/** What the rules make of the layer when its group grows. */
export function ResizeDiagram({ id }: { id: string }) {
  const look = useBench((b) => b.poses[b.state]?.[id]);
  if (!look) return null;
  const [x, width] = known(GROWN[textOf(look.resize_x)]);
  const [y, height] = known(GROWN[textOf(look.resize_y)]);
  return (
    <svg
      style={ALONE}
      width="156"
      height="66"
      viewBox="-1 -1 156 66"
      role="img"
      aria-label={`When its group grows: ${textOf(look.resize_x)} across, ${textOf(look.resize_y)} down`}
    >
      <rect {...area('white', 'ink')} width="50" height="40" />
      <rect {...area('glass-wash', 'glass')} x="10" y="8" width="30" height="24" />
      <path {...line('quiet')} d="M57 20h9m-3-3l3 3l-3 3" />
      <rect {...area('white', 'ink')} x="72" width="80" height="64" />
      <rect {...area('glass-wash', 'glass')} x={72 + x} y={y * 0.8} width={width} height={height * 0.8} />
    </svg>
  );
}
