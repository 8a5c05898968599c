/** What stages have told: the frames that stand side by side, and what is said to and by them. */
import { useEffect, useRef, useState } from 'react';
import type { FromStage, Pointed, ToStage } from '../../core/wire/live.ts';

export type Shown = Extract<FromStage, { kind: 'shown' }>;
export type Called = { prop: string; args: string; at: number };

export type Said = {
  shown: Shown | null;
  calls: Called[];
  troubles: string[];
  pointed: Pointed | null;
  /** True while an element can be pointed at. */
  isPointing: boolean;
};

const silent: Said = { shown: null, calls: [], troubles: [], pointed: null, isPointing: false };

const mostCalls = 100;
const mostTroubles = 20;

/** What is known once a stage has told something. */
function heard(before: Said, news: FromStage): Said {
  switch (news.kind) {
    case 'shown':
      return { ...before, shown: news, troubles: [] };
    case 'called': {
      const call = { prop: news.prop, args: news.args, at: Date.now() };
      return { ...before, calls: [...before.calls, call].slice(-mostCalls) };
    }
    case 'trouble':
      return { ...before, troubles: [...new Set([...before.troubles, news.message])].slice(-mostTroubles) };
    case 'pointing':
      return { ...before, isPointing: news.isOn };
    case 'pointed':
      return { ...before, pointed: news.pointed, isPointing: false };
    case 'did':
      return before;
  }
}

export type Frames = {
  said: Said;
  send(message: ToStage): void;
  /** Forgets what was told. */
  forget(what?: Partial<Said>): void;
  frameRef(name: string): (frame: HTMLIFrameElement | null) => void;
};

type Options = { origin: string; key: string; first: string; isTogether: boolean };

/** `key` is that of what is shown: another one begins in silence. Of several frames the one called `first` tells. */
export function useSaid({ origin, key, first, isTogether }: Options): Frames {
  const frames = useRef(new Map<string, HTMLIFrameElement>());
  const [said, setSaid] = useState({ key, ...silent });
  const send = (message: ToStage, but: unknown = null): void => {
    for (const { contentWindow } of frames.current.values())
      if (contentWindow !== but) contentWindow?.postMessage(message, origin);
  };
  const latest = useRef(send);
  latest.current = send;
  useEffect(() => {
    const listen = ({ source, origin: from, data }: MessageEvent<FromStage>): void => {
      const isOurs = [...frames.current.values()].some(({ contentWindow }) => contentWindow === source);
      if (from !== origin || data?.from !== 'sguardo-stage' || !isOurs) return;
      if (data.kind === 'did' && isTogether)
        latest.current({ to: 'sguardo-stage', kind: 'do', deed: data.deed }, source);
      // An element may be pointed at in any of them, and then in no other.
      if (data.kind === 'pointed') latest.current({ to: 'sguardo-stage', kind: 'point', isOn: false }, source);
      const tells = data.kind === 'pointed' || source === frames.current.get(first)?.contentWindow;
      if (tells) setSaid((before) => ({ key, ...heard(before.key === key ? before : silent, data) }));
    };
    window.addEventListener('message', listen);
    return () => window.removeEventListener('message', listen);
  }, [origin, key, first, isTogether]);
  return {
    said: said.key === key ? said : silent,
    send,
    forget: (what = silent) => setSaid((before) => ({ ...before, ...what, key })),
    frameRef: (name) => (frame) => {
      if (frame) frames.current.set(name, frame);
      else frames.current.delete(name);
    },
  };
}
