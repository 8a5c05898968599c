import { createComponent, type Component } from 'solid-js';
import { createStore, reconcile } from 'solid-js/store';
import { render } from 'solid-js/web';

/** A Solid component as a function that makes an element of its props. */
export const solid =
  <P extends object>(component: Component<P>) =>
  (props: P) => {
    const element = document.createElement('div');
    const [given, give] = createStore(props);
    const remove = render(() => createComponent(component, given), element);
    return { element, update: (next: P) => give(reconcile(next)), remove };
  };
