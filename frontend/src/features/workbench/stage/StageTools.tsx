import { Flex, Space, Tooltip } from 'antd';
import { memo } from 'react';
import { line } from '../../../shared/drawing/paint';
import { Chip } from '../../../shared/ui/Chip';
import { look, useView, type GhostsOf, type Tool } from '../view';
import type { Zoom } from './useZoom';
import { known } from '../../../shared/known';

const TOOLS: [Tool, string, string, string][] = [
  ['choose', 'Choose', 'Escape', 'M4 2.5v10l2.7-2.600 1.700 3.700 1.600-.7-1.700-3.700 3.700-.2Z'],
  ['pen', 'Draw a path', 'O', 'M3 13c1-6 4-2 5-5s2-4 5-4M2 14h2v-2H2ZM12 5h2V3h-2Z'],
  ['line', 'Draw a line', 'Shift O', 'M3 13L13 3'],
];

/** What the pointer does on the pose, and how large the pose is shown. */
export const StageTools = memo(function StageTools({ zoom, toChosen }: { zoom: Zoom; toChosen: (() => void) | null }) {
  const tool = useView((v) => v.tool);
  return (
    <Flex gap={8} className="stage-tools" onPointerDown={(e) => e.stopPropagation()}>
      <Space.Compact role="group" aria-label="Tool">
        {TOOLS.map(([name, label, key, icon]) => (
          <Tooltip key={name} title={`${label} (${key})`}>
            <Chip
              aria-label={label}
              pressed={tool === name}
              onClick={() => look({ tool: name, points: null, onColour: null })}
            >
              <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
                <path {...line('ink', 1.3)} strokeLinejoin="round" strokeLinecap="round" d={icon} />
              </svg>
            </Chip>
          </Tooltip>
        ))}
      </Space.Compact>
      <Space.Compact role="group" aria-label="Size on the screen">
        <Chip
          className="mono"
          title="The whole piece (W)"
          onClick={zoom.toFit}
          aria-label={`${Math.round(zoom.zoom * 100)}%, show the whole piece`}
        >
          {Math.round(zoom.zoom * 100)}%
        </Chip>
        <Chip title="Actual size (E)" onClick={zoom.toSize}>
          1:1
        </Chip>
        <Chip title="What is chosen, as large as it can be (N)" disabled={!toChosen} onClick={() => toChosen?.()}>
          zoom in
        </Chip>
      </Space.Compact>
    </Flex>
  );
});

const ROUND: readonly GhostsOf[] = ['before', 'after', 'off'];

/** Which neighbour is shown as dashed outlines, and whether the way is drawn. */
export const GhostSwitch = memo(function GhostSwitch({
  before,
  after,
  canTrace,
}: {
  before: string | undefined;
  after: string | undefined;
  canTrace: boolean;
}) {
  const ghosts = useView((v) => v.ghosts);
  const path = useView((v) => v.path);
  const pivot = useView((v) => v.pivot);
  const name = { before, after, off: undefined }[ghosts];
  const next = () => look({ ghosts: known(ROUND[(ROUND.indexOf(ghosts) + 1) % ROUND.length]) });
  return (
    <Space.Compact role="group" aria-label="Shown over the pose">
      <Chip
        pressed={ghosts !== 'off'}
        title={`${name ? `Dashed: where things are in ${name}` : 'No dashed outlines'} · click for before, after, off`}
        onClick={next}
      >
        dashed: {ghosts}
      </Chip>
      <Chip
        pressed={path}
        disabled={!canTrace && !path}
        title="The path of the chosen layer through the run, a dot every 40 ms"
        onClick={() => look({ path: !path })}
      >
        path
      </Chip>
      <Chip
        pressed={pivot}
        disabled={!canTrace && !pivot}
        title="What the chosen layer turns and grows around, to be pulled; the layer stays where it is"
        onClick={() => look({ pivot: !pivot })}
      >
        pivot
      </Chip>
    </Space.Compact>
  );
});
