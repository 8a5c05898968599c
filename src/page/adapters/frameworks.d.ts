/**
 * As much of the frameworks as the adapters use: a project brings its own, and none of them is needed to build ours.
 */
declare module 'vue' {
  export type App = {
    config: { errorHandler: ((error: unknown) => void) | undefined };
    mount(into: Element): unknown;
    unmount(): void;
  };
  export function createApp(component: { render(): unknown }): App;
  export function h(component: unknown, props: unknown, slots?: unknown): unknown;
  export function shallowRef<T>(value: T): { value: T };
}

declare module 'svelte' {
  export function mount(component: unknown, options: { target: Element; props: object }): object;
  export function unmount(instance: object): Promise<void>;
  export function flushSync(): void;
  export function createRawSnippet(make: () => { render(): string }): unknown;
}

declare module 'svelte/reactivity' {
  export class SvelteMap<K, V> extends Map<K, V> {}
}

declare module '*.svelte' {
  const component: unknown;
  export default component;
}

declare module '@angular/core' {
  export type Type<T> = new (...args: never[]) => T;
  export type ComponentRef<T> = {
    instance: T;
    injector: unknown;
    hostView: unknown;
    setInput(name: string, value: unknown): void;
    destroy(): void;
  };
  export type ApplicationRef = {
    injector: unknown;
    attachView(view: unknown): void;
    tick(): void;
    destroy(): void;
  };
  export const ErrorHandler: unknown;
  export function provideZonelessChangeDetection(): unknown;
  export function createComponent<T>(component: Type<T>, options: object): ComponentRef<T>;
  type Entry = { propName: string; templateName: string };
  export function reflectComponentType(
    component: Type<unknown>,
  ): { selector: string; inputs: readonly Entry[]; outputs: readonly Entry[] } | null;
}

declare module '@angular/platform-browser' {
  import type { ApplicationRef } from '@angular/core';
  export function createApplication(options: { providers: readonly unknown[] }): Promise<ApplicationRef>;
}
