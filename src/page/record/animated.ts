/** What animations make of elements at one instant: no attribute and no style sheet says it. */
import { propertiesOf } from '../../core/time/motion.ts';
import { rootsNow } from './roots.ts';

/** Values by property, by pseudo-element; `''` is the element itself. */
export type AnimatedValues = Record<string, Record<string, string>>;

/** A style sheet's own animation is at its end wherever the sheet is: a redrawn moment shows it by itself. */
const isOfItself = (animation: Animation): boolean =>
  animation.playState === 'finished' && (animation instanceof CSSAnimation || animation instanceof CSSTransition);

function read(effect: KeyframeEffect, found: Map<Element, AnimatedValues>): void {
  const { target, pseudoElement } = effect;
  if (!target) return;
  const style = getComputedStyle(target, pseudoElement);
  const all = found.get(target) ?? {};
  const values = all[pseudoElement ?? ''] ?? {};
  for (const frame of effect.getKeyframes())
    for (const name of propertiesOf(frame)) {
      const value = name.startsWith('--')
        ? style.getPropertyValue(name)
        : style[(name === 'cssFloat' ? 'float' : name) as 'opacity'];
      if (typeof value === 'string') values[name] = value;
    }
  all[pseudoElement ?? ''] = values;
  found.set(target, all);
}

/** Every element that an animation has a hold of now. */
export function animatedNow(): Map<Element, AnimatedValues> {
  const found = new Map<Element, AnimatedValues>();
  for (const root of rootsNow())
    for (const animation of root.getAnimations()) {
      const effect = animation.effect as KeyframeEffect | null;
      if (effect && effect.getComputedTiming().progress != null && !isOfItself(animation)) read(effect, found);
    }
  return found;
}
