import { Flex } from 'antd';
import type { Layer, Transition, TransitionReading } from '../../../api/contract';
import { Cut } from '../../../shared/ui/Cut';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { choose } from '../choosing';
import { removeLane, setLane, timeAlone, type Timing } from '../edits';
import { propertyNamed } from '../tree';
import { TimingEditor } from './TimingEditor';

interface Props {
  transition: Transition;
  layer: Layer;
  /** With a lane of its own; null for the layer. */
  property: string | null;
  reading: TransitionReading | undefined;
}

/** How one layer goes, or one property of it, where it does not go as the transition. */
export function LaneTiming({ transition, layer, property, reading }: Props) {
  const lanes = transition.lanes ?? [];
  const own = lanes.findIndex((lane) => lane.layer === layer.id && (lane.property ?? null) === property);
  const timing = lanes[own]?.timing ?? null;
  const now = () => useBench.getState().document;
  const setOwn = (timing: Timing | null) => setLane(now(), transition.id, layer.id, { timing }, property);
  const asLayer = async () => {
    if (property && (await attempt(removeLane(now(), transition.id, layer.id, property)))) choose({ lane: layer.id });
  };
  return (
    <>
      <Flex align="center" wrap gap={4}>
        <strong style={{ minWidth: 0 }}>
          <Cut name={property ? `${layer.name} · ${propertyNamed(property).label}` : layer.name} />
        </strong>
        <span className="spring" />
        {property && (
          <PlainButton title={`Goes with ${layer.name} again`} onClick={() => void asLayer()}>
            as the layer
          </PlainButton>
        )}
        {timing && (
          <PlainButton
            title="Takes the duration and curve of the transition again"
            onClick={() => void attempt(setOwn(null))}
          >
            as the transition
          </PlainButton>
        )}
        <PlainButton title="Shows the timing of the transition" onClick={() => choose({ lane: null })}>
          back to all
        </PlainButton>
      </Flex>
      {!timing && <p className="quiet">Has the timing of the transition. A change here gives it its own.</p>}
      <TimingEditor
        key={`${layer.id} ${property}`}
        timing={timing ?? transition.timing}
        reading={reading?.lanes[own] ?? reading}
        commit={(next) => make(setOwn(next))}
      />
      {!property && <Alone transition={transition} layer={layer} reading={reading} />}
    </>
  );
}

/** The properties that move with the layer, each of which can be given a lane of its own. */
function Alone({ transition, layer, reading }: Omit<Props, 'property'>) {
  const lanes = (transition.lanes ?? []).filter((lane) => lane.layer === layer.id);
  const moving = (reading?.moves ?? []).filter(([id]) => id === layer.id).map(([, name]) => name);
  const together = moving.filter((name) => !lanes.some((lane) => lane.property === name));
  if (moving.length < 2 || !together.length) return null;
  const give = async (property: string) => {
    const { document } = useBench.getState();
    if (await attempt(timeAlone(document, transition.id, layer.id, property)))
      choose({ lane: layer.id, laneProperty: property });
  };
  return (
    <div className="chips" role="group" aria-label="Time by itself">
      <span className="quiet">time by itself</span>
      {together.map((property) => (
        <PlainButton
          key={property}
          title={`Gives ${propertyNamed(property).label} a duration and curve of its own`}
          onClick={() => void give(property)}
        >
          {propertyNamed(property).label}
        </PlainButton>
      ))}
    </div>
  );
}
