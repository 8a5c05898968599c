import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { depthOf, wrongWith } from './depths';

let fields = 0;

/** A depth in metres: a number, its unit, and a word when there is not enough water for it. */
@Component({
  selector: 'harbour-depth-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="field" [attr.data-wrong]="wrong() ? '' : null">
      <label [for]="id">{{ label() }}</label>
      <div class="box">
        <input
          [id]="id"
          type="number"
          step="0.1"
          [value]="text()"
          [disabled]="disabled()"
          [attr.aria-invalid]="wrong() !== null"
          [attr.aria-describedby]="id + '-wrong'"
          (input)="change($any($event.target).value)"
        />
        <span class="unit">m</span>
      </div>
      <span class="wrong" [id]="id + '-wrong'" [attr.role]="wrong() ? 'alert' : null">{{ wrong() }}</span>
    </div>
  `,
})
export class DepthField {
  readonly label = input.required<string>();
  readonly initial = input('');
  readonly least = input(0.2);
  readonly most = input.required<number>();
  readonly disabled = input(false);
  readonly depth = output<number | null>();
  readonly id = `depth-${fields++}`;
  readonly text = linkedSignal(() => this.initial());
  readonly wrong = computed(() => wrongWith(this.text(), this.least(), this.most()));

  change(text: string): void {
    this.text.set(text);
    this.depth.emit(depthOf(text, this.least(), this.most()));
  }
}
