/* What server and page say to each other, by the page's names for it. */
import type {
  AxisTold,
  ChangeAnswer,
  ConicGradient,
  Ellipse,
  ErrorTold,
  Group,
  LinearGradient,
  Medium,
  Path,
  Picture,
  Placement,
  RadialGradient,
  Rectangle,
  RunReading,
  RunningUndercurrent,
  SeamTold,
  SegmentTold,
  SentValue,
  ShadowTold,
  Text,
} from './generated/contract';

export type * from './generated/contract';
export type Layer = Group | Rectangle | Ellipse | Path | Text | Picture | Medium | Placement;
/** What a scene has to know of a layer besides its looks; what stands in a copy is in `layers`. */
export interface Drawn {
  id: string;
  name: string;
  kind: Layer['kind'];
  locked?: boolean;
  mask?: boolean | 'alpha' | 'brightness';
  pinned?: boolean;
  layers?: readonly Drawn[] | null;
}
export type Gradient = LinearGradient | RadialGradient | ConicGradient;
/** Two values at once: `to` by its share, `from` by the rest. Only made while playing. */
export interface Fade {
  kind: 'fade';
  from: Value;
  to: Value;
  share: number;
}
export type Value = Exclude<SentValue, unknown[]> | readonly Shadow[] | readonly AxisPlace[] | readonly number[] | Fade;
/** Every property of a layer, resolved. */
export type Look = Record<string, Value>;
export type Pose = Record<string, Look>;
export type Shadow = ShadowTold;
export type AxisPlace = AxisTold;
export type Head = Pick<ChangeAnswer, 'id' | 'revision' | 'holds' | 'undo' | 'redo'>;
export type Run = RunReading;
export type Segment = SegmentTold;
export type Seam = SeamTold;
export type Undercurrent = RunningUndercurrent;
export type Fault = ErrorTold;
