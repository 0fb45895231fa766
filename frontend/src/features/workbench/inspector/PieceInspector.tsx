import { Checkbox } from 'antd';
import { NumberField, TextField } from '../../../shared/ui/Field';
import { Choice } from '../../../shared/ui/Choice';
import { attempt, make, useBench } from '../bench';
import { howToPlay, standingStill } from '../standing';
import { CloseLoop } from './CloseLoop';
import { OwnFonts } from './OwnFonts';
import { OwnGuides } from './OwnGuides';
import { OfferedOfPiece } from './Offered';
import { Retime } from './Retime';
import { SafeArea } from './SafeArea';
import { Sections } from './Sections';
import { TouchOfPiece } from './Touch';
import { Undercurrents } from './Undercurrents';

/** What belongs to the whole piece. */
export function PieceInspector() {
  const piece = useBench((b) => b.document);
  const set = (name: string, value: unknown) =>
    make({ label: `${name} of the piece`, patch: [{ op: 'add', path: `/${name}`, value }] });
  return (
    <>
      <h2>{piece.name}</h2>
      <div className="pairs">
        <NumberField label="width" unit="px" value={piece.width} commit={(v) => set('width', v)} />
        <NumberField label="height" unit="px" value={piece.height} commit={(v) => set('height', v)} />
      </div>
      <TextField
        label="background"
        value={piece.ground ?? 'none'}
        commit={(v) => set('ground', v === 'none' || v === '' ? null : v)}
      />
      <Checkbox
        checked={piece.clips ?? false}
        onChange={({ target }) =>
          void attempt({
            label: target.checked ? 'Clip to the piece' : 'No longer clip to the piece',
            patch: [{ op: 'add', path: '/clips', value: target.checked }],
          })
        }
      >
        clip to the piece: cut off what lies beyond its edge
      </Checkbox>
      <h3>Colours blend in</h3>
      <Choice
        block
        value={piece.blend ?? 'oklab'}
        options={[
          { value: 'oklab', label: 'OKLab' },
          { value: 'srgb', label: 'sRGB' },
        ]}
        onChange={(value) => void attempt({ label: 'Colour blending', patch: [{ op: 'add', path: '/blend', value }] })}
      />
      <HowItPlays />
      <CloseLoop />
      <Retime />
      <Undercurrents />
      <OwnFonts />
      <Sections />
      <SafeArea />
      <OwnGuides />
      <OfferedOfPiece />
      <TouchOfPiece />
      <p className="quiet">Choose a layer for its look, or a transition in the score for its timing.</p>
    </>
  );
}

function HowItPlays() {
  const piece = useBench((b) => b.document);
  const run = useBench((b) => b.run);
  return (
    <p className="quiet">
      {run.loop_ms === null
        ? run.total_ms
          ? `Plays once, ${run.total_ms} ms.`
          : `${standingStill(piece, run) ?? 'Stands still'}. ${howToPlay(piece, run)}`
        : `Loops in ${run.loop_ms} ms${run.lead_in_ms ? ` after a lead-in of ${run.lead_in_ms} ms` : ''}.`}
      {run.common_loop_ms !== null && run.common_loop_ms !== run.loop_ms
        ? ` With all that goes round in it, it looks the same again after ${run.common_loop_ms} ms.`
        : ''}
    </p>
  );
}
