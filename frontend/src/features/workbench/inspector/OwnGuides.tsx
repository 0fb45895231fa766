import { Flex } from 'antd';
import { NumberField, TypedField } from '../../../shared/ui/Field';
import { Fold } from '../../../shared/ui/Fold';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { guidesOf, parsePlaces, setGuides, type Way } from '../edits';

/** Lines of one's own, and a grid: drawn on the pose, and layers snap to them. */
export function OwnGuides() {
  const piece = useBench((b) => b.document);
  const own = guidesOf(piece);
  const places = (way: Way, label: string, name: string) => (
    <TypedField
      label={label}
      name={name}
      value={own[way]}
      format={(at) => at.join(', ')}
      parse={parsePlaces}
      commit={(at) => make(setGuides(piece, { [way]: at }))}
      clear={() => make(setGuides(piece, { [way]: [] }))}
    />
  );
  return (
    <Fold title="Guides and grid" open={Boolean(piece.guides)}>
      <p className="quiet">
        Layers snap to them. Places in px from the left or the top, such as 16, 24. On the pose a guide is pulled by the
        tab at its end; beyond the edge of the piece it is gone.
      </p>
      <Flex vertical gap={8}>
        {places('upright', 'guides from left', 'guides, px from the left')}
        {places('level', 'guides from top', 'guides, px from the top')}
        <NumberField
          label="grid every"
          name="grid, px between lines"
          unit="px"
          value={own.grid ?? 0}
          commit={(px) => make(setGuides(piece, { grid: px === 0 ? null : px }))}
          clear={() => make(setGuides(piece, { grid: null }))}
        />
      </Flex>
      {piece.guides && (
        <PlainButton onClick={() => void attempt(setGuides(piece, { upright: [], level: [], grid: null }))}>
          Remove guides and grid
        </PlainButton>
      )}
    </Fold>
  );
}
