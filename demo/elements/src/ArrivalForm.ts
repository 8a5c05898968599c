import { book, purposes } from './arrivals';
import './DepthField';
import type { DepthField } from './DepthField';
import { escaped, HarbourElement } from './HarbourElement';

export type ArrivalProps = { berth: string; depth: number };

export interface ArrivalForm extends ArrivalProps {}

/** Books a vessel in. */
// biome-ignore lint/suspicious/noUnsafeDeclarationMerging: its props are properties of the element
export class ArrivalForm extends HarbourElement<ArrivalProps> {
  #draught: number | null = null;
  #sending = false;

  constructor() {
    super({ berth: '', depth: 0 });
  }

  protected override build(): void {
    const options = purposes.map(({ value, label }) => `<option value="${value}">${label}</option>`);
    this.innerHTML = `<form class="card">
      <h2></h2>
      <div class="field"><label for="vessel">Vessel</label><div class="box"><input id="vessel" /></div></div>
      <depth-field></depth-field>
      <div class="field"><label for="purpose">Purpose</label>
        <div class="box"><select id="purpose">${options.join('')}</select></div></div>
      <label><input type="checkbox" /> Dangerous goods on board</label>
      <div class="row"><button class="button" type="submit">Book arrival</button></div>
    </form>`;
    this.find('form').addEventListener('submit', (event) => void this.#send(event));
    this.find('#vessel').addEventListener('input', () => this.show());
    this.find('depth-field').addEventListener('depth', (event) => {
      this.#draught = (event as CustomEvent<number | null>).detail;
      this.show();
    });
  }

  protected show(): void {
    const form = this.querySelector('form');
    if (!form) return;
    const { berth, depth } = this.props;
    form.setAttribute('aria-label', `Arrival at ${berth}`);
    this.find('h2').textContent = `Arrival at ${berth}`;
    for (const field of form.querySelectorAll<HTMLInputElement | HTMLSelectElement>('input, select'))
      field.disabled = this.#sending;
    Object.assign(this.find<DepthField>('depth-field'), { label: 'Draught', most: depth, disabled: this.#sending });
    const button = this.find<HTMLButtonElement>('button');
    button.disabled = this.#sending || this.#vessel === '' || this.#draught === null;
    button.textContent = this.#sending ? 'Booking…' : 'Book arrival';
  }

  get #vessel(): string {
    return this.find<HTMLInputElement>('#vessel').value;
  }

  async #send(event: Event): Promise<void> {
    event.preventDefault();
    this.querySelector('[role=alert].notice')?.remove();
    this.#sending = true;
    this.show();
    const vessel = this.#vessel;
    const booked = await book(this.props.berth, {
      vessel,
      draught: this.#draught,
      purpose: this.find<HTMLSelectElement>('#purpose').value,
      goods: this.find<HTMLInputElement>('[type=checkbox]').checked,
    });
    this.#sending = false;
    this.show();
    if ('wrong' in booked) {
      const notice = `<div class="notice gale" role="alert" style="width: auto">${escaped(booked.wrong)}</div>`;
      this.find('.row').insertAdjacentHTML('beforebegin', notice);
      return;
    }
    this.innerHTML = `<section class="card" role="status"><h2>Welcome, ${escaped(vessel)}</h2>
      <p style="margin: 0">Berth ${escaped(this.props.berth)}, arrival <strong>${escaped(booked.number)}</strong></p>
    </section>`;
    this.tell('arrived', { vessel, number: booked.number });
  }
}

customElements.define('arrival-form', ArrivalForm);
