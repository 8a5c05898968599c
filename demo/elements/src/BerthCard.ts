import { underKeel } from './depths';
import { escaped, HarbourElement } from './HarbourElement';

export type BerthProps = {
  berth: string;
  vessel: string | null;
  /** Metres. */
  draught: number | undefined;
  length: number | undefined;
  depth: number;
};

export interface BerthCard extends BerthProps {}

/** One berth: who lies there, how much water is under the keel, and the way to release it. */
// biome-ignore lint/suspicious/noUnsafeDeclarationMerging: its props are properties of the element
export class BerthCard extends HarbourElement<BerthProps> {
  constructor() {
    super({ berth: '', vessel: null, draught: undefined, length: undefined, depth: 3.2 });
    this.addEventListener('click', (event) => {
      const { does } = (event.target as HTMLElement).dataset;
      const dialog = this.querySelector('dialog');
      if (does === 'ask') dialog?.showModal();
      if (does === 'keep' || does === 'release') dialog?.close();
      if (does === 'release') this.tell('release', this.props.berth);
    });
  }

  protected show(): void {
    const { berth, vessel, depth } = this.props;
    const moored = vessel === null ? '' : this.moored(vessel);
    this.innerHTML = `<section class="card" aria-label="Berth ${escaped(berth)}">
      <div class="row"><h2>${escaped(berth)}</h2>
        ${moored ? '<span class="tag taken">Moored</span>' : '<span class="tag free">Free</span>'}</div>
      ${moored || `<p class="soft" style="margin: 0">Free berth, ${depth} m at low tide</p>`}
    </section>`;
  }

  private moored(vessel: string): string {
    const { berth, draught, length, depth } = this.props;
    const under = draught === undefined ? null : underKeel(depth, draught);
    const meter = under
      ? `<div><div class="meter ${under.metres < 0.5 ? 'shallow' : ''}"><i style="width: ${under.width}%"></i></div>
         <span class="soft">${under.words}</span></div>`
      : '';
    return `<div><strong>${escaped(vessel)}</strong>
        ${length === undefined ? '' : `<span class="soft"> · ${length} m</span>`}</div>
      ${meter}
      <div class="row"><button type="button" class="button" data-does="ask">Release berth</button></div>
      <dialog class="dialog" aria-labelledby="release">
        <h2 id="release">Release ${escaped(berth)}?</h2>
        <p class="soft">${escaped(vessel)} loses its place, and the berth can be given to the next arrival.</p>
        <div class="row">
          <button type="button" class="button quiet" data-does="keep">Keep it</button>
          <button type="button" class="button danger" data-does="release">Release</button>
        </div>
      </dialog>`;
  }
}

customElements.define('berth-card', BerthCard);
