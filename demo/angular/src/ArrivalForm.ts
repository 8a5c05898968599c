import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { book, purposes } from './arrivals';
import { DepthField } from './DepthField';

/** Books a vessel in. */
@Component({
  selector: 'harbour-arrival-form',
  imports: [DepthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (number()) {
      <section class="card" role="status">
        <h2>Welcome, {{ vessel() }}</h2>
        <p style="margin: 0">
          Berth {{ berth() }}, arrival <strong>{{ number() }}</strong>
        </p>
      </section>
    } @else {
      <form class="card" [attr.aria-label]="'Arrival at ' + berth()" (submit)="send($event)">
        <h2>Arrival at {{ berth() }}</h2>
        <div class="field">
          <label for="vessel">Vessel</label>
          <div class="box">
            <input
              id="vessel"
              [value]="vessel()"
              [disabled]="sending()"
              (input)="vessel.set($any($event.target).value)"
            />
          </div>
        </div>
        <harbour-depth-field
          label="Draught"
          [most]="depth()"
          [disabled]="sending()"
          (depth)="draught.set($event)"
        />
        <div class="field">
          <label for="purpose">Purpose</label>
          <div class="box">
            <select id="purpose" [disabled]="sending()" (change)="purpose.set($any($event.target).value)">
              @for (one of purposes; track one.value) {
                <option [value]="one.value" [selected]="one.value === purpose()">{{ one.label }}</option>
              }
            </select>
          </div>
        </div>
        <label
          ><input
            type="checkbox"
            [checked]="goods()"
            [disabled]="sending()"
            (change)="goods.set($any($event.target).checked)"
          />
          Dangerous goods on board</label
        >
        @if (wrong()) {
          <div class="notice gale" role="alert" style="width: auto">{{ wrong() }}</div>
        }
        <div class="row">
          <button class="button" type="submit" [disabled]="sending() || vessel() === '' || draught() === null">
            {{ sending() ? 'Booking…' : 'Book arrival' }}
          </button>
        </div>
      </form>
    }
  `,
})
export class ArrivalForm {
  readonly berth = input.required<string>();
  /** Metres of water at the berth. */
  readonly depth = input.required<number>();
  readonly arrived = output<{ vessel: string; number: string }>();
  readonly purposes = purposes;
  readonly vessel = signal('');
  readonly draught = signal<number | null>(null);
  readonly purpose = signal('visit');
  readonly goods = signal(false);
  readonly sending = signal(false);
  readonly wrong = signal('');
  readonly number = signal('');

  async send(event: Event): Promise<void> {
    event.preventDefault();
    this.sending.set(true);
    this.wrong.set('');
    const arrival = {
      vessel: this.vessel(),
      draught: this.draught(),
      purpose: this.purpose(),
      goods: this.goods(),
    };
    const booked = await book(this.berth(), arrival);
    this.sending.set(false);
    if ('wrong' in booked) {
      this.wrong.set(booked.wrong);
      return;
    }
    this.number.set(booked.number);
    this.arrived.emit({ vessel: this.vessel(), number: booked.number });
  }
}
