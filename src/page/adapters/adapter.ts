/** What a framework has to be able to do for its components to be looked at. One file a framework implements it. */

/** Hears of errors that no part of the component caught. */
export type OnError = (error: unknown) => void;

export type Adapter<Instance = unknown> = {
  /** Does once what the framework does when it is first used, so that no look is taken for having done it. */
  warm(): void;
  /**
   * Renders a component into an element, inside the frame if there is one; it is on the page when this returns.
   * @throws nothing: what goes wrong is given to `onError`
   */
  mount(into: Element, component: unknown, props: Record<string, unknown>, frame: unknown, onError: OnError): Instance;
  /** Gives a mounted component other props. */
  update(instance: Instance, props: Record<string, unknown>): void;
  unmount(instance: Instance): void;
  /** What a person calls the component. */
  nameOf(component: unknown): string;
};
