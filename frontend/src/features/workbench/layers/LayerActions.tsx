import { Flex } from 'antd';
import type { Layer, Piece, Pose } from '../../../api/contract';
import * as actions from '../actions';
import { attempt, useBench } from '../bench';
import { isShape, namesOf, setFixed } from '../edits';
import { lettersAsPath } from '../fonts';
import { makePiece } from '../placements';
import { placed } from '../tree';
import { lastOf } from '../../../shared/known';
import { PlainButton } from '../../../shared/ui/PlainButton';

interface Props {
  ids: readonly string[];
  rename: (id: string) => void;
}

interface Action {
  name: string;
  title: string;
  act: () => void;
  disabled?: boolean;
}

/** What can be done to the chosen layers. */
export function LayerActions({ ids, rename }: Props) {
  const piece = useBench((b) => b.document);
  const pose = useBench((b) => b.poses[b.state]);
  return (
    <Flex wrap className="layer-actions" role="group" aria-label={`Actions for ${namesOf(piece, ids)}`}>
      {actionsFor(piece, pose, ids, rename).map(({ name, act, ...rest }) => (
        <PlainButton key={name} onClick={act} {...rest}>
          {name}
        </PlainButton>
      ))}
    </Flex>
  );
}

/** Which actions there are, by what is chosen. */
function actionsFor(piece: Piece, pose: Pose | undefined, ids: readonly string[], rename: Props['rename']): Action[] {
  const found = ids.map((id) => placed(piece, id));
  const { layer, index, siblings } = lastOf(found);
  const alone = ids.length === 1;
  const locked = found.every((p) => p.layer.locked);
  const seen = ids.every((id) => pose?.[id]?.visible);
  const up = { disabled: !alone || index === siblings.length - 1 };
  const down = { disabled: !alone || index === 0 };
  return [
    { name: 'raise', title: 'In front of the layer above it (Alt ↑)', act: () => void actions.order(1), ...up },
    { name: 'lower', title: 'Behind the layer below it (Alt ↓)', act: () => void actions.order(-1), ...down },
    { name: 'duplicate', title: 'T', act: () => void actions.duplicate() },
    { name: 'copy look', title: 'Paint, line, corners, shadow, filters and letters (C)', act: actions.copyLook },
    { name: 'paste look', title: 'Shift C', act: () => void actions.pasteLook() },
    { name: 'group', title: 'G', act: () => void actions.group() },
    ...(layer.kind === 'group' ? groupActions : []),
    ...(alone ? shapeActions(piece, layer) : []),
    {
      name: 'make a piece',
      title: 'Of the chosen layers: copies of it may stand elsewhere',
      act: () => void makePiece(),
    },
    { name: seen ? 'hide' : 'show', title: 'In this state (H)', act: () => void actions.hide() },
    { name: locked ? 'unlock' : 'lock', title: 'K', act: () => void actions.lock() },
    ...(alone ? [{ name: 'rename', title: 'F2', act: () => rename(layer.id) }] : []),
    { name: 'delete', title: 'Delete', act: () => void actions.remove() },
  ];
}

const groupActions: readonly Action[] = [
  { name: 'ungroup', title: 'Shift G', act: () => void actions.ungroup() },
  {
    name: 'fit box',
    title: 'The box of the group around what it holds, as it is posed: the dotted line',
    act: () => void actions.fit(),
  },
];

const lettersOutlined: Action = {
  name: 'as outline',
  title: 'A path of its letters, in all states; it needs no font, and is no text any more',
  act: () => void lettersAsPath(),
};

/** Shapes cut others by their outline, all else by what it shows; boxes and texts can become outlines. */
function shapeActions(piece: Piece, layer: Layer): Action[] {
  const [how, by] = isShape(layer)
    ? (['only inside its outline', true] as const)
    : (['as much as it is opaque', 'alpha'] as const);
  const title = `What stands above it in its group is seen ${how}`;
  const act = () => void attempt(setFixed(piece, layer.id, 'mask', layer.mask ? false : by));
  const mask = { name: layer.mask ? 'no mask' : 'as mask', title, act };
  if (layer.kind === 'text') return [mask, lettersOutlined];
  if (!isShape(layer) || layer.kind === 'path') return [mask];
  const outline = {
    name: 'as outline',
    title: 'A path with points of its own, in all states',
    act: () => void actions.toPath(),
  };
  return [mask, outline];
}
