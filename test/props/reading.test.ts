/** The types of props, read from components of every kind as people write them. */
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Kind } from '../../src/core/look/kind.ts';
import { type PropType, typeInWords } from '../../src/core/props/type.ts';
import read from '../../src/props/thread.ts';
import { project, write } from '../support/project.ts';

const look = (from: string, name = 'Berth', kind = ''): string =>
  `import { looks } from 'sguardo${kind && `/${kind}`}';\nimport ${name} from '${from}';\nexport default ` +
  `looks(${name.replace(/[{}]/g, '').trim()}, { states: {} });\n`;

/** What is known of the props of a component: `name?: type`, by name. */
function propsOf(files: Record<string, string>, lookFile: string, kind: Kind): Record<string, string> | null {
  const root = project(files);
  const path = join(root, lookFile);
  return shown(read({ root, files: [{ path, kind }] })[path]?.types ?? null);
}

function shown(types: PropType | null): Record<string, string> | null {
  if (types?.is !== 'object') return types && { '': typeInWords(types) };
  return Object.fromEntries(
    Object.entries(types.entries).map(([name, { type, isOptional }]) => [
      isOptional ? `${name}?` : name,
      typeInWords(type),
    ]),
  );
}

const react = (source: string, more: Record<string, string> = {}) =>
  propsOf(
    { 'src/Berth.tsx': source, 'src/Berth.look.tsx': look('./Berth', '{ Berth }'), ...more },
    'src/Berth.look.tsx',
    'react',
  );

describe('a React component', () => {
  it('may be a function of props of every type', () => {
    const source = `import type { ReactNode } from 'react';
      enum Tide { Low, High }
      interface Vessel { name: string; draught: number; flags?: readonly string[]; sister?: Vessel }
      export function Berth(props: {
        name: string; depth?: number; tone: 'calm' | 'gale'; open: boolean; vessel: Vessel | null; tide?: Tide;
        since: Date; notes: Map<string, string>; at: [number, number?]; children?: ReactNode; id: string & { brand: 1 };
        onRelease(berth: string): void; rowFor?: (name: string) => ReactNode; save: () => Promise<void>; extra: unknown;
      }) { return null; }`;
    expect(react(source)).toEqual({
      name: 'string',
      'depth?': 'number',
      tone: '"calm" | "gale"',
      open: 'boolean',
      vessel: 'Vessel | null',
      'tide?': '0 | 1',
      since: 'Date',
      notes: 'Map',
      at: '[number, number | undefined]',
      'children?': 'content',
      id: 'string',
      onRelease: '(berth: string) => void',
      'rowFor?': '(name: string) => ReactNode',
      save: '() => Promise<void>',
      extra: 'anything',
    });
  });

  it.each([
    [
      'memo',
      `import { memo } from 'react'; export const Berth = memo(function Berth(_: { name: string }) { return null; });`,
    ],
    [
      'a reference',
      `
        import { forwardRef } from 'react';
        export const Berth = forwardRef<HTMLDivElement, { name: string }>(() => null);`,
    ],
    ['a class', `import { Component } from 'react'; export class Berth extends Component<{ name: string }> {}`],
    ['an arrow', `type P = { name: string }; export const Berth = ({ name }: P) => name;`],
    ['a type from elsewhere', `import type { P } from './types'; export const Berth = ({ name }: P) => name;`],
  ])('may be made by %s', (_, source) => {
    expect(
      react(source, {
        'src/types/index.ts': `export type { P } from './p';`,
        'src/types/p.ts': 'export type P = { name: string };',
      }),
    ).toMatchObject({ name: 'string' });
  });

  it('has those of the button that it passes on, but not all that every element has', () => {
    const source = `import type { ComponentProps } from 'react';
      export const Berth = (p: ComponentProps<'button'> & { tone?: 'calm' }) => <button {...p} />;`;
    expect(react(source)).toEqual({ 'tone?': '"calm"' });
  });

  it('need not be given what it has by default', () => {
    const source = `import { Component } from 'react';
      export class Berth extends Component<{ name: string; depth: number }> { static defaultProps = { depth: 3 }; }`;
    expect(react(source)).toMatchObject({ name: 'string', 'depth?': 'number' });
  });

  it('may take props of several shapes', () => {
    const source = `export const Berth = (_: { kind: 'a'; x: number } | { kind: 'b'; y: string }) => null;`;
    const root = project({ 'src/Berth.tsx': source, 'src/Berth.look.tsx': look('./Berth', '{ Berth }') });
    const path = join(root, 'src/Berth.look.tsx');
    const { types } = read({ root, files: [{ path, kind: 'react' }] })[path]!;
    expect(types?.is === 'one' && types.of.map(shown)).toEqual([
      { kind: '"a"', x: 'number' },
      { kind: '"b"', y: 'string' },
    ]);
  });

  it('says in JavaScript what its comments say, and otherwise only names', () => {
    const at = { 'src/Berth.look.jsx': look('./Berth.jsx', '{ Berth }') };
    const said = `/** @param {{ name: string, depth?: number }} props */ export function Berth(props) { return null; }`;
    expect(propsOf({ ...at, 'src/Berth.jsx': said }, 'src/Berth.look.jsx', 'react')).toEqual({
      name: 'string',
      'depth?': 'number',
    });
    const unsaid = `export function Berth({ name, depth = 3 }) { return null; }`;
    expect(Object.keys(propsOf({ ...at, 'src/Berth.jsx': unsaid }, 'src/Berth.look.jsx', 'react') ?? {})).toEqual([
      'name?',
      'depth?',
    ]);
  });

  it('is found through the paths of a configuration that others point at', () => {
    const files = {
      'tsconfig.json': '{ "files": [], "references": [{ "path": "./tsconfig.app.json" }] }',
      'tsconfig.app.json': '{ "compilerOptions": { "baseUrl": ".", "paths": { "@/*": ["./src/*"] } } }',
      'src/parts/Berth.tsx': 'export const Berth = (_: { name: string }) => null;',
      'src/Berth.look.tsx': look('@/parts/Berth', '{ Berth }'),
    };
    expect(propsOf(files, 'src/Berth.look.tsx', 'react')).toEqual({ name: 'string' });
  });

  it.each([
    ['what is not there', look('./Nowhere', '{ Berth }')],
    ['a syntax error', `${look('./Berth', '{ Berth }')}\nconst = {;`],
    ['no looks at all', 'export default 4;'],
    ['an empty file', ''],
  ])('is nothing to stumble over: %s', (_, source) => {
    expect(() => react('export const Berth = {};', { 'src/Berth.look.tsx': source })).not.toThrow();
  });
});

describe('a Vue component', () => {
  const vue = (script: string) =>
    propsOf(
      {
        'src/Berth.vue': `<script setup lang="ts">\n${script}\n</script>\n<template><p /></template>`,
        'src/Berth.look.ts': look('./Berth.vue', 'Berth', 'vue'),
        'src/types.ts': `export type P = { name: string; tone?: 'calm' | 'gale' };`,
      },
      'src/Berth.look.ts',
      'vue',
    );
  it.each([
    ['a type', `defineProps<{ name: string; tone?: 'calm' | 'gale' }>();`],
    ['a type from elsewhere', `import type { P } from './types'; const { name } = defineProps<P>();`],
    [
      'defaults',
      `interface P { name: string; tone?: 'calm' | 'gale' } withDefaults(defineProps<P>(), { tone: 'calm' });`,
    ],
  ])('may declare its props by %s', (_, script) => {
    expect(vue(script)).toEqual({ name: 'string', 'tone?': '"calm" | "gale"' });
  });

  it('has its models among them', () => {
    expect(
      vue(
        `
          defineProps<{ name: string }>();
          const open = defineModel<boolean>('open', { required: true });
          const depth = defineModel<number>();`,
      ),
    ).toEqual({ name: 'string', open: 'boolean', 'modelValue?': 'number' });
  });

  it('that declares nothing says nothing', () => {
    expect(vue('const depth = 3;')).toBeNull();
  });
});

describe('a Svelte component', () => {
  const svelte = (script: string) =>
    propsOf(
      { 'src/Berth.svelte': `${script}\n<p>berth</p>`, 'src/Berth.look.ts': look('./Berth.svelte', 'Berth', 'svelte') },
      'src/Berth.look.ts',
      'svelte',
    );
  it.each([
    [
      '$props',
      `<script lang="ts">
interface P { name: string; onRelease?: () => void }
let { name, onRelease }: P = $props();</script>`,
    ],
    [
      'a module of its own',
      '<script module lang="ts">export type P = { name: string; onRelease?: () => void };</script>' +
        '<script lang="ts">let { name }: P = $props();</script>',
    ],
    ['export let', `<script lang="ts">export let name: string; export let onRelease: () => void = () => {};</script>`],
  ])('may declare its props by %s', (_, script) => {
    expect(svelte(script)).toEqual({ name: 'string', 'onRelease?': '() => void' });
  });

  it('says only names in JavaScript', () => {
    expect(svelte('<script>let { name, open: isOpen = false, ...rest } = $props();</script>')).toEqual({
      'name?': 'anything',
      'open?': 'anything',
    });
  });
});

describe('other components', () => {
  it('are Angular ones, with their inputs as signals and as fields', () => {
    const core = `export interface InputSignal<T> {
        (): T;
        brand: T;
      }
      export interface InputSignalWithTransform<T, W> {
        (): T;
        brand: W;
      }
      export interface ModelSignal<T> {
        (): T;
        brand: T;
      }
      export interface OutputEmitterRef<T> {
        emit(value: T): void;
      }
      export declare const input: { <T>(initial: T): InputSignal<T>; required<T>(): InputSignal<T> };
      export declare function model<T>(initial: T): ModelSignal<T>;
      export declare function output<T>(): OutputEmitterRef<T>;
      export declare function Input(options?: object): PropertyDecorator;
      export declare function Component(options: object): ClassDecorator;`;
    const source = `import { Component, Input, input, model, output } from '@angular/core';
      @Component({ selector: 'x-berth', template: '' })
      export class Berth {
        name = input.required<string>(); tone = input<'calm' | 'gale'>('calm'); open = model(false);
        @Input({ required: true, alias: 'depth' }) deep!: number; @Input() vessel: string | null = null;
        release = output<string>(); hidden = 4; private secret = 1;
      }`;
    const files = {
      'node_modules/@angular/core/package.json': '{ "name": "@angular/core", "types": "index.d.ts" }',
      'node_modules/@angular/core/index.d.ts': core,
      'src/Berth.ts': source,
      'src/Berth.look.ts': look('./Berth', '{ Berth }', 'angular'),
    };
    expect(propsOf(files, 'src/Berth.look.ts', 'angular')).toEqual({
      name: 'string',
      'tone?': '"calm" | "gale"',
      'open?': 'boolean',
      depth: 'number',
      'vessel?': 'string | null',
    });
  });

  const element = `export class Berth extends HTMLElement {
      name = ''; depth?: number; readonly id2 = 1; private secret = 2; #own = 3; static tag = 'x';
      get tone(): 'calm' | 'gale' { return 'calm'; } set tone(_: 'calm' | 'gale') {}
      release(): void {} connectedCallback(): void {}
    }
    declare global { interface HTMLElementTagNameMap { 'x-berth': Berth } }`;
  it.each([
    ['its class', look('./Berth', '{ Berth }', 'dom')],
    [
      'its tag',
      `import { looks } from 'sguardo/dom';\nimport './Berth';\nexport default looks('x-berth', { states: {} });\n`,
    ],
  ])('are elements, by %s', (_, file) => {
    expect(propsOf({ 'src/Berth.ts': element, 'src/Berth.look.ts': file }, 'src/Berth.look.ts', 'dom')).toEqual({
      'name?': 'string',
      'depth?': 'number',
      'tone?': '"calm" | "gale"',
    });
  });

  it('are functions that make elements', () => {
    const source = `export const Berth = ({ name }: { name: string }): string => name;`;
    expect(
      propsOf(
        { 'src/Berth.ts': source, 'src/Berth.look.ts': look('./Berth', '{ Berth }', 'dom') },
        'src/Berth.look.ts',
        'dom',
      ),
    ).toEqual({ name: 'string' });
  });
});

describe('what types depend on', () => {
  it('is where they are declared, and all that passes them on; nothing else', () => {
    const root = project({
      'src/Berth.tsx': `
        import type { P } from './types';
        import type { Other } from './other';
        export const Berth = (_: P) => null as Other | null;`,
      'src/types/index.ts': `export type { P } from './p';`,
      'src/types/p.ts': `import type { Tone } from './tone'; export type P = { tone: Tone };`,
      'src/types/tone.ts': `export type Tone = 'calm' | 'gale';`,
      'src/other.ts': 'export type Other = string;',
      'src/Berth.look.tsx': look('./Berth', '{ Berth }'),
    });
    const path = join(root, 'src/Berth.look.tsx');
    const question = { root, files: [{ path, kind: 'react' as const }] };
    const { files } = read(question)[path]!;
    const names = ['Berth.look.tsx', 'Berth.tsx', 'types/index.ts', 'types/p.ts', 'types/tone.ts'];
    expect(files.toSorted()).toEqual(names.map((name) => join(root, 'src', name)));
    // Files are read as they are now.
    write(root, { 'src/types/tone.ts': `export type Tone = 'storm';` });
    expect(shown(read(question)[path]!.types)).toEqual({ tone: '"storm"' });
  });
});
