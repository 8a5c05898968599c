/** What the kit's elements have in common: props that show at once, and a part of the page to show them in. */
export abstract class HarbourElement<Props extends object> extends HTMLElement {
  protected readonly props: Props;

  constructor(props: Props) {
    super();
    this.props = props;
    for (const name of Object.keys(props) as (keyof Props & string)[])
      Object.defineProperty(this, name, {
        get: () => this.props[name],
        set: (value: never) => {
          this.props[name] = value;
          if (this.isConnected) this.show();
        },
        enumerable: true,
      });
  }

  connectedCallback(): void {
    if (this.childElementCount === 0) this.build();
    this.show();
  }

  /** Makes what stays. */
  protected build(): void {}

  /** Shows the props as they are. */
  protected abstract show(): void;

  protected find<E extends Element = HTMLElement>(selector: string): E {
    return this.querySelector<E>(selector)!;
  }

  protected tell(type: string, detail: unknown): void {
    this.dispatchEvent(new CustomEvent(type, { detail, bubbles: true }));
  }
}

/** Text as markup. */
export const escaped = (text: unknown): string => String(text).replace(/[&<>"]/g, (one) => `&#${one.charCodeAt(0)};`);
