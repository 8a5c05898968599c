import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { underKeel } from './depths';

/** One berth: who lies there, how much water is under the keel, and the way to release it. */
@Component({
  selector: 'harbour-berth-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (vessel() === null) {
      <section class="card" [attr.aria-label]="'Berth ' + berth()">
        <div class="row">
          <h2>{{ berth() }}</h2>
          <span class="tag free">Free</span>
        </div>
        <p class="soft" style="margin: 0">Free berth, {{ depth() }} m at low tide</p>
      </section>
    } @else {
      <section class="card" [attr.aria-label]="'Berth ' + berth()">
        <div class="row">
          <h2>{{ berth() }}</h2>
          <span class="tag taken">Moored</span>
        </div>
        <div>
          <strong>{{ vessel() }}</strong>
          @if (length() !== undefined) {
            <span class="soft"> · {{ length() }} m</span>
          }
        </div>
        @if (under(); as under) {
          <div>
            <div class="meter" [class.shallow]="under.metres < 0.5"><i [style.width.%]="under.width"></i></div>
            <span class="soft">{{ under.words }}</span>
          </div>
        }
        <div class="row">
          <button type="button" class="button" (click)="dialog.showModal()">Release berth</button>
        </div>
        <dialog #dialog class="dialog" aria-labelledby="release">
          <h2 id="release">Release {{ berth() }}?</h2>
          <p class="soft">{{ vessel() }} loses its place, and the berth can be given to the next arrival.</p>
          <div class="row">
            <button type="button" class="button quiet" (click)="dialog.close()">Keep it</button>
            <button type="button" class="button danger" (click)="dialog.close(); release.emit(berth())">Release</button>
          </div>
        </dialog>
      </section>
    }
  `,
})
export class BerthCard {
  readonly berth = input.required<string>();
  readonly vessel = input.required<string | null>();
  /** Metres. */
  readonly draught = input<number>();
  readonly length = input<number>();
  readonly depth = input(3.2);
  readonly release = output<string>();
  readonly under = computed(() => {
    const draught = this.draught();
    return draught === undefined ? null : underKeel(this.depth(), draught);
  });
}
