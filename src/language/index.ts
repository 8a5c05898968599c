/** What a look file imports from `sguardo`. */
export {
  blur,
  clear,
  click,
  drag,
  focus,
  hold,
  hover,
  paste,
  pinch,
  press,
  resize,
  scroll,
  select,
  touch,
  type,
  unhover,
  upload,
} from './actions.ts';
export type { Carried, ClickOptions, DragOptions, PressOptions, TouchOptions } from './command.ts';
export { answer, type Answer, type AnswerInit, type Received, type Reply, type ServerEvent } from './answer.ts';
export { clock } from './clock.ts';
export {
  type AnswerChecks,
  type CallChecks,
  type CheckOptions,
  ensure,
  type Loose,
  type TargetChecks,
  type ValueChecks,
} from './ensure.ts';
export type { Compare } from './compare.ts';
export type { AnyComponent } from './component.ts';
export { looks, type Looks, type LookState, type ScriptContext } from './looks.ts';
export type { LookSettings, Tags, World } from './settings.ts';
export { action, check } from './own.ts';
export { capture, type CaptureOptions, part, pause } from './script.ts';
export { reset, spy, type Spy } from './spy.ts';
export { type Name, type RoleState, the, type The, type Target } from './target.ts';
export { type Media, world, type WorldChange } from './world.ts';
