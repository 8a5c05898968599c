/** What steps cost the browser, of the trace that it keeps (trace event format) and the profile of its scripts. */

/** Milliseconds, but for `shift` and `longTasks`. */
export type Costs = {
  script: number;
  style: number;
  layout: number;
  paint: number;
  /** The longest task, and how many took more than 50 ms (Long Tasks API). */
  longest: number;
  longTasks: number;
  /** How much the layout has shifted (Layout Instability API). */
  shift: number;
  /** How often the framework has rendered; null where it does not tell. React does, from 19.2 on, in development. */
  renders: number | null;
  /** From the first input of the step to the end of the next painting; null where nothing was pressed or painted. */
  toPaint: number | null;
};

export const costKinds = [
  'script',
  'style',
  'layout',
  'paint',
  'longest',
  'longTasks',
  'shift',
  'renders',
  'toPaint',
] as const;
export type CostKind = (typeof costKinds)[number];

/** What a kind is called, and what it is counted in. */
export const costWords: Record<CostKind, { title: string; unit: string }> = {
  script: { title: 'script', unit: ' ms' },
  style: { title: 'style', unit: ' ms' },
  layout: { title: 'layout', unit: ' ms' },
  paint: { title: 'paint', unit: ' ms' },
  longest: { title: 'longest task', unit: ' ms' },
  longTasks: { title: 'long tasks', unit: '' },
  shift: { title: 'layout shift', unit: '' },
  renders: { title: 'renders', unit: '' },
  toPaint: { title: 'input to paint', unit: ' ms' },
};

/** `12.3 ms`, `0.08`. */
export function costText(kind: CostKind, value: number): string {
  const isCount = kind === 'longTasks' || kind === 'renders';
  return `${isCount ? value : value.toFixed(kind === 'shift' ? 3 : 1)}${costWords[kind].unit}`;
}

/** One event of a trace: `ts` and `dur` in microseconds on the clock of the machine. */
export type TraceEvent = {
  name: string;
  ph: string;
  ts: number;
  dur?: number;
  pid: number;
  tid: number;
  args?: { data?: Record<string, unknown> };
};

/** A function on the stack of a profile (DevTools protocol, Profiler.ProfileNode). */
export type ProfileNode = {
  id: number;
  callFrame: { functionName: string; url: string; lineNumber: number; columnNumber: number };
  children?: number[];
};

/** Samples of what ran, each so many microseconds after the one before (DevTools protocol, Profiler.Profile). */
export type Profile = { nodes: ProfileNode[]; startTime: number; samples: number[]; timeDeltas: number[] };

export type Measured = { events: TraceEvent[]; profile: Profile | null };

/** A function that ran while a step went on, with those that it called: milliseconds. */
export type Flame = { name: string; place: string | null; total: number; self: number; kids: Flame[] };

export type Timed = { costs: Costs; flame: Flame | null };

/** What a step's beginning and end say in the trace. */
export const stampOf = (side: 'begin' | 'end', step: number): string => `sguardo ${side} ${step}`;

const groups: Record<string, 'style' | 'layout' | 'paint'> = {
  UpdateLayoutTree: 'style',
  ScheduleStyleRecalculation: 'style',
  ParseAuthorStyleSheet: 'style',
  Layout: 'layout',
  PrePaint: 'paint',
  Paint: 'paint',
  Layerize: 'paint',
  Commit: 'paint',
  UpdateLayer: 'paint',
  'Decode Image': 'paint',
};

type Interval = { step: number; from: number; to: number; thread: string };

const threadOf = ({ pid, tid }: TraceEvent): string => `${pid} ${tid}`;

/** When each step began and ended, and in which thread. */
function intervalsOf(events: readonly TraceEvent[]): Interval[] {
  const begun = new Map<number, TraceEvent>();
  const found: Interval[] = [];
  for (const event of events) {
    if (event.name !== 'TimeStamp') continue;
    const said = String(event.args?.data?.message ?? '');
    const [, side, step] = /^sguardo (begin|end) (\d+)$/.exec(said) ?? [];
    if (side === 'begin') begun.set(Number(step), event);
    const from = side === 'end' ? begun.get(Number(step)) : undefined;
    if (from) found.push({ step: Number(step), from: from.ts, to: event.ts, thread: threadOf(event) });
  }
  return found;
}

/** Each event with the time that none of those inside it takes. */
function selfTimes(events: readonly TraceEvent[]): { event: TraceEvent; self: number }[] {
  const sorted = events
    .filter(({ ph, dur }) => ph === 'X' && dur !== undefined)
    .sort((a, b) => a.ts - b.ts || b.dur! - a.dur!);
  const open: { event: TraceEvent; self: number }[] = [];
  const all: { event: TraceEvent; self: number }[] = [];
  for (const event of sorted) {
    while (open.length > 0 && open.at(-1)!.event.ts + open.at(-1)!.event.dur! <= event.ts) open.pop();
    const around = open.at(-1);
    if (around) around.self -= event.dur!;
    const own = { event, self: event.dur! };
    open.push(own);
    all.push(own);
  }
  return all;
}

const tenths = (microseconds: number): number => Math.max(0, Math.round(microseconds / 100) / 10);

const isInput = ({ name, args }: TraceEvent): boolean =>
  name === 'EventDispatch' &&
  /^(click|mousedown|pointerdown|keydown|touchstart|input)$/.test(String(args?.data?.type ?? ''));

/**
 * The longest that an input of a step waits for the first painting after it was handled: a click is several inputs, and
 * a frame may come between them.
 */
function toPaint(events: readonly TraceEvent[], { from, to }: Interval): number | null {
  const inputs = events.filter((event) => isInput(event) && event.ts >= from && event.ts <= to);
  const waits = inputs.flatMap((input) => {
    const handled = input.ts + (input.dur ?? 0);
    const painted = events.find(({ name, ts }) => (name === 'Commit' || name === 'Paint') && ts > handled);
    return painted ? [painted.ts + (painted.dur ?? 0) - input.ts] : [];
  });
  return waits.length > 0 ? tenths(Math.max(...waits)) : null;
}

/** React says so in the trace as it begins to render a root: a track of its own for what blocks the page. */
const isRender = ({ name, args }: TraceEvent): boolean =>
  name === 'TimeStamp' && args?.data?.name === 'Blocking Track' && String(args.data.trackGroup ?? '').endsWith('⚛');

const within = ({ ts }: TraceEvent, { from, to }: Interval): boolean => ts >= from && ts < to;

function costsIn(
  events: readonly TraceEvent[],
  own: ReturnType<typeof selfTimes>,
  interval: Interval,
  script: number,
  tellsRenders: boolean,
): Costs {
  const sum = { style: 0, layout: 0, paint: 0 };
  let longest = 0;
  let longTasks = 0;
  let shift = 0;
  for (const { event, self } of own) {
    const group = groups[event.name];
    if (group && within(event, interval)) sum[group] += self;
    if (event.name !== 'RunTask' && event.name !== 'ThreadControllerImpl::RunTask') continue;
    // A task that the step began or ended in counts as far as the step reaches.
    const length = Math.min(event.ts + event.dur!, interval.to) - Math.max(event.ts, interval.from);
    longest = Math.max(longest, length);
    if (length > 50_000) longTasks++;
  }
  for (const event of events)
    if (event.name === 'LayoutShift' && within(event, interval)) shift += Number(event.args?.data?.score ?? 0);
  return {
    script: tenths(script),
    style: tenths(sum.style),
    layout: tenths(sum.layout),
    paint: tenths(sum.paint),
    longest: tenths(longest),
    longTasks,
    shift: Math.round(shift * 1000) / 1000,
    renders: tellsRenders ? events.filter((event) => isRender(event) && within(event, interval)).length : null,
    toPaint: toPaint(events, interval),
  };
}

/** What a function of a profile is: where it stands, and whether it is the project's (or a package of it), not ours. */
export type Located = { name: string; place: string | null; isOurs: boolean };

type Stacks = { times: number[]; samples: readonly number[]; path(id: number): ProfileNode[] };

function stacksOf({ nodes, startTime, samples, timeDeltas }: Profile): Stacks {
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const parents = new Map(nodes.flatMap(({ id, children = [] }) => children.map((child) => [child, id] as const)));
  const known = new Map<number, ProfileNode[]>();
  const path = (id: number): ProfileNode[] => {
    const found = known.get(id);
    if (found) return found;
    const above = parents.get(id);
    const node = byId.get(id);
    const made = [...(above === undefined ? [] : path(above)), ...(node ? [node] : [])];
    known.set(id, made);
    return made;
  };
  let at = startTime;
  const times = timeDeltas.map((delta) => {
    at += delta;
    return at;
  });
  return { times, samples, path };
}

const isScript = ({ callFrame: { url, functionName } }: ProfileNode): boolean =>
  url !== '' || functionName === '(garbage collector)';

/** Less is not worth drawing, in milliseconds. */
const least = 0.2;

function rounded(flame: Flame): Flame {
  const kids = flame.kids
    .filter(({ total }) => total >= least)
    .map(rounded)
    .sort((a, b) => b.total - a.total);
  return { ...flame, total: Math.round(flame.total * 10) / 10, self: Math.round(flame.self * 10) / 10, kids };
}

/** What ran of the project in an interval: microseconds, and as a tree. */
function scriptsIn(
  { times, samples, path }: Stacks,
  { from, to }: Interval,
  locate: (node: ProfileNode) => Located,
): { script: number; flame: Flame | null } {
  const root: Flame = { name: 'script', place: null, total: 0, self: 0, kids: [] };
  let script = 0;
  for (let i = 0; i < samples.length; i++) {
    const at = times[i]!;
    if (at < from || at >= to) continue;
    const took = (times[i + 1] ?? at) - at;
    const stack = path(samples[i]!).filter(isScript);
    const last = stack.at(-1);
    // What the innermost function belongs to counts: ours calls the component, and the component may call ours.
    if (!last || locate(last).isOurs) continue;
    script += took;
    let flame = root;
    flame.total += took / 1000;
    for (const node of stack) {
      const { name, place, isOurs } = locate(node);
      if (isOurs) continue;
      let kid = flame.kids.find((one) => one.name === name && one.place === place);
      if (!kid) {
        kid = { name, place, total: 0, self: 0, kids: [] };
        flame.kids.push(kid);
      }
      kid.total += took / 1000;
      flame = kid;
    }
    flame.self += took / 1000;
  }
  return { script, flame: root.total < least ? null : rounded(root) };
}

/** What each step cost, by its number. `locate` says of a function in the profile where it stands and whose it is. */
export function timesOf({ events, profile }: Measured, locate: (node: ProfileNode) => Located): Map<number, Timed> {
  const intervals = intervalsOf(events);
  const stacks = profile && stacksOf(profile);
  const tellsRenders = events.some(isRender);
  const threads = new Map<string, TraceEvent[]>();
  for (const event of events) {
    const thread = threads.get(threadOf(event));
    if (thread) thread.push(event);
    else threads.set(threadOf(event), [event]);
  }
  const selfs = new Map<string, ReturnType<typeof selfTimes>>();
  return new Map(
    intervals.map((interval) => {
      const own = (threads.get(interval.thread) ?? []).sort((a, b) => a.ts - b.ts);
      const self = selfs.get(interval.thread) ?? selfTimes(own);
      selfs.set(interval.thread, self);
      const { script, flame } = stacks ? scriptsIn(stacks, interval, locate) : { script: 0, flame: null };
      return [interval.step, { costs: costsIn(own, self, interval, script, tellsRenders), flame }];
    }),
  );
}

/** A whole look: the sum of its steps, but the longest task, and the longest way from an input to paint. */
export function totalOf(steps: readonly { costs?: Costs; kind: string }[]): Costs | null {
  // A part holds others, which count.
  const all = steps.flatMap(({ costs, kind }) => (costs && kind !== 'part' ? [costs] : []));
  if (all.length === 0) return null;
  const sum = (kind: Exclude<CostKind, 'toPaint' | 'longest' | 'renders'>): number =>
    Math.round(all.reduce((total, costs) => total + costs[kind], 0) * 1000) / 1000;
  const renders = all.flatMap(({ renders: one }) => one ?? []);
  const paints = all.flatMap(({ toPaint: one }) => one ?? []);
  return {
    script: sum('script'),
    style: sum('style'),
    layout: sum('layout'),
    paint: sum('paint'),
    longest: Math.max(...all.map(({ longest }) => longest)),
    longTasks: sum('longTasks'),
    shift: sum('shift'),
    renders: renders.length > 0 ? renders.reduce((total, one) => total + one, 0) : null,
    toPaint: paints.length > 0 ? Math.max(...paints) : null,
  };
}
