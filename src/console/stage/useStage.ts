/** What is on the stage, and what has come of it: all that a link has to say is in the address. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { type FromStage, type Pointed, propsIn, type ToStage } from '../../core/wire/live.ts';

export type Shown = Extract<FromStage, { kind: 'shown' }>;
export type Called = { prop: string; args: string; at: number };

export type Stage = {
  file: string;
  /** Names of the environments that are side by side. */
  environments: string[];
  /** How large it is shown; null when it is made to fit. */
  zoom: number | null;
  over: Record<string, unknown>;
  shown: Shown | null;
  calls: Called[];
  troubles: string[];
  /** True while nothing has come from the stage. */
  isWaiting: boolean;
  setLook(look: string): void;
  setEnvironments(names: string[]): void;
  setZoom(zoom: number | null): void;
  /** What is done in one environment is done in the others. */
  isTogether: boolean;
  /** True while an element can be pointed at. */
  isPointing: boolean;
  setPointing(isPointing: boolean): void;
  pointed: Pointed | null;
  forgetPointed(): void;
  setTogether(isTogether: boolean): void;
  /** Puts a value over a prop, or with undefined takes it away again. */
  put(prop: string, value: unknown): void;
  restoreAll(): void;
  reset(): void;
  frameRef(name: string): (frame: HTMLIFrameElement | null) => void;
};

const mostCalls = 100;

type Said = { shown: Shown | null; calls: Called[]; troubles: string[]; pointed: Pointed | null };
const silent: Said = { shown: null, calls: [], troubles: [], pointed: null };

/** `origin` is that of stages; the first of the environments is used when the address names none. */
export function useStage(origin: string, usual: string): Stage {
  const [query, setQuery] = useSearchParams();
  const file = query.get('file') ?? '';
  const look = query.get('look');
  const key = `${file}\n${look}`;
  const environments = useMemo(() => (query.get('env') ?? usual).split(',').filter(Boolean), [query, usual]);
  const over = useMemo(() => propsIn(query.get('props')), [query]);
  const isTogether = query.get('together') === 'yes';
  const [isPointing, setPointingNow] = useState(false);
  const frames = useRef(new Map<string, HTMLIFrameElement>());
  const [said, setSaid] = useState<Said & { key: string }>({ ...silent, key });
  const now = said.key === key ? said : { ...silent, key };

  useEffect(() => {
    const listen = ({ source, origin: from, data }: MessageEvent<FromStage>): void => {
      if (from !== origin || data?.from !== 'sguardo-stage') return;
      if (data.kind === 'did') {
        const others = [...frames.current.values()].map(({ contentWindow }) => contentWindow);
        if (!isTogether || !others.includes(source as Window)) return;
        const message: ToStage = { to: 'sguardo-stage', kind: 'do', deed: data.deed };
        for (const other of others) if (other !== source) other?.postMessage(message, origin);
        return;
      }
      if (data.kind === 'pointed') {
        setPointingNow(false);
        for (const frame of frames.current.values())
          frame.contentWindow?.postMessage(
            { to: 'sguardo-stage', kind: 'point', isOn: false } satisfies ToStage,
            origin,
          );
        setSaid((before) => ({ ...(before.key === key ? before : { ...silent, key }), pointed: data.pointed }));
        return;
      }
      // Environments side by side show the same: one of them tells.
      const first = frames.current.get(environments[0] ?? '');
      if (source !== first?.contentWindow) return;
      if (data.kind === 'pointing') {
        setPointingNow(data.isOn);
        return;
      }
      setSaid((before) => {
        const old = before.key === key ? before : { ...silent, key };
        if (data.kind === 'shown') return { ...old, shown: data, troubles: [] };
        if (data.kind === 'trouble')
          return { ...old, troubles: [...new Set([...old.troubles, data.message])].slice(-20) };
        const call = { prop: data.prop, args: data.args, at: Date.now() };
        return { ...old, calls: [...old.calls, call].slice(-mostCalls) };
      });
    };
    window.addEventListener('message', listen);
    return () => window.removeEventListener('message', listen);
  }, [origin, key, environments, isTogether]);

  const send = (message: ToStage): void => {
    for (const frame of frames.current.values()) frame.contentWindow?.postMessage(message, origin);
  };
  const set = (entries: Record<string, string | null>): void => {
    const next = new URLSearchParams(query);
    for (const [name, value] of Object.entries(entries)) {
      if (value === null) next.delete(name);
      else next.set(name, value);
    }
    setQuery(next, { replace: true });
  };
  const putAll = (props: Record<string, unknown>): void => {
    send({ to: 'sguardo-stage', kind: 'props', props });
    set({ props: Object.keys(props).length === 0 ? null : JSON.stringify(props) });
  };
  return {
    file,
    environments,
    zoom: Number(query.get('zoom')) || null,
    over,
    shown: now.shown,
    calls: now.calls,
    troubles: now.troubles,
    isWaiting: now.shown === null && now.troubles.length === 0,
    isPointing,
    setPointing(isOn) {
      // It is on when the stage says so.
      send({ to: 'sguardo-stage', kind: 'point', isOn });
    },
    pointed: now.pointed,
    forgetPointed: () => setSaid({ ...now, pointed: null }),
    isTogether,
    setTogether: (next) => set({ together: next ? 'yes' : null }),
    setLook: (name) => set({ look: name, props: null }),
    setEnvironments: (names) => set({ env: names.join(',') }),
    setZoom: (zoom) => set({ zoom: zoom === null ? null : String(zoom) }),
    put(prop, value) {
      const { [prop]: _, ...rest } = over;
      putAll(value === undefined ? rest : { ...rest, [prop]: value });
    },
    restoreAll: () => putAll({}),
    reset() {
      setSaid({ ...silent, key });
      send({ to: 'sguardo-stage', kind: 'reset' });
    },
    frameRef: (name) => (frame) => {
      if (frame) frames.current.set(name, frame);
      else frames.current.delete(name);
    },
  };
}
