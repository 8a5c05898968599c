import { depthOf, wrongWith } from './depths';
import { HarbourElement } from './HarbourElement';

export type DepthProps = { label: string; initial: string; least: number; most: number; disabled: boolean };

export interface DepthField extends DepthProps {}

let fields = 0;

/** A depth in metres: a number, its unit, and a word when there is not enough water for it. */
// biome-ignore lint/suspicious/noUnsafeDeclarationMerging: its props are properties of the element
export class DepthField extends HarbourElement<DepthProps> {
  constructor() {
    super({ label: '', initial: '', least: 0.2, most: 100, disabled: false });
  }

  protected override build(): void {
    const id = `depth-${fields++}`;
    this.innerHTML = `<div class="field">
        <label for="${id}"></label>
        <div class="box">
          <input id="${id}" type="number" step="0.1" aria-describedby="${id}-wrong" />
          <span class="unit">m</span>
        </div>
        <span class="wrong" id="${id}-wrong"></span>
      </div>;`;
    const input = this.find<HTMLInputElement>('input');
    input.value = this.props.initial;
    input.addEventListener('input', () => {
      this.show();
      this.tell('depth', depthOf(input.value, this.props.least, this.props.most));
    });
  }

  protected show(): void {
    const { label, least, most, disabled } = this.props;
    const input = this.find<HTMLInputElement>('input');
    const wrong = wrongWith(input.value, least, most);
    this.find('label').textContent = label;
    this.find('.field').toggleAttribute('data-wrong', wrong !== null);
    input.disabled = disabled;
    input.setAttribute('aria-invalid', String(wrong !== null));
    const word = this.find('.wrong');
    word.textContent = wrong;
    if (wrong) word.role = 'alert';
    else word.removeAttribute('role');
  }
}

customElements.define('depth-field', DepthField);
