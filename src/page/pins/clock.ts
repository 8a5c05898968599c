/** The clock: every look begins at the same instant. */
import { native } from '../host/natives.ts';
import { beganAt, beginTime, dateNow, elapsed } from '../time/time.ts';
import type { Pin } from './pin.ts';

/** A window: this one, or that of a frame. */
export type Realm = Window & typeof globalThis;

export function pinDate(realm: Realm): void {
  const Real = realm === window ? native.Date : realm.Date;
  const Pinned = function (this: unknown, ...args: unknown[]) {
    if (!new.target) return new Real(dateNow()).toString();
    const target = new.target as unknown as DateConstructor;
    const made = args.length === 0 ? new Real(dateNow()) : Reflect.construct(Real, args);
    return target === Pinned ? made : Object.setPrototypeOf(made, target.prototype as object);
  } as unknown as DateConstructor;
  Object.setPrototypeOf(Pinned, Real);
  Object.defineProperties(Pinned, {
    prototype: { value: Real.prototype },
    now: { value: dateNow, writable: true, configurable: true },
    name: { value: 'Date' },
    length: { value: 7 },
  });
  // A date says by its constructor what made it, and must not lead around the pin.
  Object.defineProperty(Real.prototype, 'constructor', { value: Pinned, writable: true, configurable: true });
  realm.Date = Pinned;
}

/** Without a date these show the present one. */
function pinFormats(): void {
  const prototype = Intl.DateTimeFormat.prototype;
  const { get } = Object.getOwnPropertyDescriptor(prototype, 'format')!;
  Object.defineProperty(prototype, 'format', {
    configurable: true,
    enumerable: false,
    get(this: Intl.DateTimeFormat) {
      const format = get!.call(this) as (date?: number | Date) => string;
      return (date?: number | Date) => format(date === undefined ? dateNow() : date);
    },
  });
  const { formatToParts } = prototype;
  prototype.formatToParts = function (date) {
    return formatToParts.call(this, date === undefined ? dateNow() : date);
  };
}

type TemporalInstant = { toZonedDateTimeISO(zone: string): Record<string, () => unknown> };
type TemporalLike = {
  Now: Record<string, (...args: unknown[]) => unknown>;
  Instant: { fromEpochMilliseconds(milliseconds: number): TemporalInstant };
};

/** `Temporal.Now`, where there is one. */
function pinTemporal(): void {
  const { Temporal } = globalThis as { Temporal?: TemporalLike };
  if (!Temporal) return;
  const { Now, Instant } = Temporal;
  const zoneId = Now.timeZoneId!.bind(Now) as () => string;
  const instant = (): TemporalInstant => Instant.fromEpochMilliseconds(dateNow());
  const zoned = (zone?: unknown): Record<string, () => unknown> =>
    instant().toZonedDateTimeISO((zone as string | undefined) ?? zoneId());
  const pinned: Record<string, (zone?: unknown) => unknown> = {
    instant,
    zonedDateTimeISO: zoned,
    plainDateTimeISO: (zone) => zoned(zone).toPlainDateTime!(),
    plainDateISO: (zone) => zoned(zone).toPlainDate!(),
    plainTimeISO: (zone) => zoned(zone).toPlainTime!(),
  };
  for (const [name, value] of Object.entries(pinned))
    Object.defineProperty(Now, name, { value, writable: true, configurable: true });
}

const two = (n: number): string => String(n).padStart(2, '0');

/** As `document.lastModified` is written: `03/02/2026 09:30:00`, in local time. */
function lastModified(): string {
  const date = new native.Date(beganAt());
  const day = `${two(date.getMonth() + 1)}/${two(date.getDate())}/${date.getFullYear()}`;
  return `${day} ${two(date.getHours())}:${two(date.getMinutes())}:${two(date.getSeconds())}`;
}

function pinOrigins(): void {
  const getter = (holder: object, name: string, get: () => unknown): void =>
    void Object.defineProperty(holder, name, { get, configurable: true, enumerable: true });
  getter(Performance.prototype, 'timeOrigin', beganAt);
  const { toJSON } = Performance.prototype;
  Performance.prototype.toJSON = function () {
    return { ...(toJSON.call(this) as object), timeOrigin: beganAt() };
  };
  getter(Document.prototype, 'lastModified', lastModified);
  // A file is as old as the look unless somebody says otherwise.
  window.File = new Proxy(File, {
    construct: (target, [bits, name, options], newTarget) =>
      Reflect.construct(
        target,
        [bits, name, { lastModified: dateNow(), ...(options as object | undefined) }],
        newTarget,
      ),
  });
}

/** The engine's timelines stand at 0, and animations are moved on by us: when one began follows from where it is. */
function pinStartTimes(): void {
  Object.defineProperty(Animation.prototype, 'startTime', {
    configurable: true,
    enumerable: true,
    get(this: Animation) {
      const { currentTime, pending, playbackRate } = this;
      return currentTime === null || pending ? null : elapsed() - Number(currentTime) / (playbackRate || 1);
    },
    set(this: Animation, time: CSSNumberish | null) {
      this.currentTime = time === null ? null : (elapsed() - Number(time)) * this.playbackRate;
    },
  });
}

export function pinStopwatch(realm: Realm): void {
  realm.Performance.prototype.now = elapsed;
}

/** Milliseconds since the look began, wherever the platform tells them. */
function pinElapsed(): void {
  const timeStamps = new WeakMap<Event, number>();
  Object.defineProperty(Event.prototype, 'timeStamp', {
    configurable: true,
    enumerable: true,
    get(this: Event) {
      const known = timeStamps.get(this) ?? elapsed();
      timeStamps.set(this, known);
      return known;
    },
  });
  Object.defineProperty(AnimationTimeline.prototype, 'currentTime', {
    configurable: true,
    enumerable: true,
    get: elapsed,
  });
}

export const clock: Pin = {
  install() {
    pinDate(window);
    pinFormats();
    pinTemporal();
    pinOrigins();
    pinStopwatch(window);
    pinElapsed();
    pinStartTimes();
  },
  begin({ now }) {
    beginTime(now);
  },
};
