/** Setting up projects of every kind: what is found in them, and what would be written. */
import { existsSync, mkdirSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { packageFor } from '../../src/setup/package.ts';
import { type Plan, planFor } from '../../src/setup/plan.ts';
import { freshFolder, repository, write } from '../support/project.ts';

const dependsOn = (...names: string[]): string =>
  JSON.stringify({ dependencies: Object.fromEntries(names.map((name) => [name, '1.0.0'])) });

const html = '<body><div id="root"></div><script type="module" src="/src/main.tsx"></script></body>';

function folderOf(files: Record<string, string>): string {
  const root = freshFolder();
  write(root, files);
  return root;
}

/** The plan for a project of these files, and the text of each file that it would write. */
async function planned(files: Record<string, string>): Promise<{ plan: Plan; text(path: string): string }> {
  const plan = await planFor(folderOf(files));
  const text = (path: string): string => {
    const file = plan.files.find((one) => one.path === path);
    if (!file)
      throw new Error(`${path} would not be written; these would: ${plan.files.map((one) => one.path).join(', ')}`);
    return file.text;
  };
  return { plan, text };
}

const found = ({ found: all }: Plan): Record<string, string> => Object.fromEntries(all);

const react = {
  'package.json': dependsOn('react', '@tanstack/react-query'),
  'tsconfig.json': '{}',
  'index.html': html,
  'vite.config.ts': 'export default {};',
  'src/index.css': '@media (prefers-color-scheme: dark) { body { color: white } }',
  'src/theme.ts': 'export const theme = {}; export const other = 4;',
  'src/main.tsx': `import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { other, theme } from './theme';
import './index.css';
import { App } from './App';
import { Theme } from './Theme';

const options = { retry: 0 };
const client = new QueryClient(options);
const unrelated = other + 1;

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Theme theme={theme}>
        <App />
      </Theme>
    </QueryClientProvider>
  </StrictMode>,
);
`,
  'src/App.tsx': `import { Berth } from './Berth';\nexport const App = () => <Berth name="C-14" data-test="a" />;`,
  'src/Theme.tsx': `export const Theme = ({ children }: { children?: unknown; theme: object }) => children;`,
  'src/Berth.tsx': 'export const Berth = (p: { name: string }) => <b data-test="name" data-test-id="x">{p.name}</b>;',
};

describe('a React project', () => {
  it('keeps in its frame what stands beside the app, and follows the app through it', async () => {
    const entry = (markup: string): string => `import { createRoot } from 'react-dom/client';
import { Reset, Theme, Toasts } from 'quay-kit';
import { App } from './App';
createRoot(document.body).render(${markup});
`;
    const frameOf = async (markup: string): Promise<string> => {
      const { text } = await planned({ ...react, 'src/main.tsx': entry(markup) });
      return text('sguardo.frame.tsx');
    };
    expect(await frameOf('<Theme mode="day"><Reset /><><App /><Toasts max={2} /></></Theme>')).toContain(
      `import { Reset, Theme, Toasts } from 'quay-kit';`,
    );
    expect(await frameOf('<Theme mode="day"><Reset /><><App /><Toasts max={2} /></></Theme>')).toContain(
      `    <Theme mode="day">\n      <Reset />\n      {children}\n      <Toasts max={2} />\n    </Theme>\n`,
    );
    expect(await frameOf('<main><Reset /><Toasts max={2} /></main>')).toContain(
      `    <main>\n      {children}\n    </main>\n`,
    );
    expect(await frameOf('<Theme><main>one</main><main>two</main></Theme>')).toContain(
      `    <Theme>\n      {children}\n    </Theme>\n`,
    );
    expect(await frameOf('<><Reset /><Theme mode="day"><App /></Theme></>')).toContain(
      `    <>\n      <Reset />\n      <Theme mode="day">\n        {children}\n      </Theme>\n    </>\n`,
    );
  });

  it('keeps messages beside the app, and neither tools for its makers nor what hides errors', async () => {
    const entry = `import { createRoot } from 'react-dom/client';
import { ErrorBoundary, Messages } from 'quay-kit';
import { Toaster } from '@/ui/toaster';
import { QueryDevtools } from 'quay-tools';
import { Office } from './Office';
createRoot(document.body).render(
  <ErrorBoundary fallback={null}><Office /><Toaster /><QueryDevtools /></ErrorBoundary>,
);
`;
    const { plan, text } = await planned({ ...react, 'src/main.tsx': entry });
    expect(found(plan)['around the app']).toBe('<Toaster />');
    expect(text('sguardo.frame.tsx')).toContain('    <>\n      {children}\n      <Toaster />\n    </>\n');
    expect(text('sguardo.frame.tsx')).toMatch(/^import [^;]*;\nimport \{ Toaster \} from '@\/ui\/toaster';\n\n/);
  });

  it('keeps in its frame the providers of the component that the entry shows, up to the layout of pages', async () => {
    const office = (shown: string, taken: string): string => `import { Client, ClientProvider } from 'quay-client';
import { BrowserRouter, Route, Routes } from 'quay-router';
import { Toaster as Toasts } from './ui/toaster';
import { Header } from './Header';
const client = new Client();
const Office = (${taken}) => ${shown};
export default Office;
`;
    const frameOf = async (shown: string, taken = ''): Promise<string> => {
      const { text } = await planned({
        ...react,
        'src/main.tsx': `import { createRoot } from 'react-dom/client';
import Office from './app/Office.tsx';
import { Theme } from './Theme';
createRoot(document.body).render(<Theme theme={{}}><Office /></Theme>);
`,
        'src/app/Office.tsx': office(shown, taken),
      });
      return text('sguardo.frame.tsx');
    };
    const whole = await frameOf(
      '<ClientProvider client={client}><Toasts /><BrowserRouter><Routes><Route path="/" /></Routes>' +
        '</BrowserRouter></ClientProvider>',
    );
    expect(whole).toContain("import { Client, ClientProvider } from 'quay-client';\n");
    expect(whole).toContain("import { Toaster as Toasts } from './src/app/ui/toaster';\n");
    expect(whole).toContain('  const [client] = useState(() => new Client());\n');
    expect(whole).toContain(
      [
        '    <Theme theme={{}}>',
        '      <ClientProvider client={client}>',
        '        <Toasts />',
        '        <BrowserRouter>',
        '          {children}',
        '        </BrowserRouter>',
        '      </ClientProvider>',
        '    </Theme>\n',
      ].join('\n'),
    );
    const ofPages = await frameOf('<ClientProvider client={client}><Header /><main><Toasts /></main></ClientProvider>');
    expect(ofPages).toContain('      <ClientProvider client={client}>\n        {children}\n      </ClientProvider>\n');
    // What it was given or has found out is not there for a frame.
    const given = await frameOf('<ClientProvider client={tides}><Header /></ClientProvider>', '{ tides }');
    expect(given).toContain('    <Theme theme={{}}>\n      {children}\n    </Theme>\n');
    const asking = await frameOf(`{ const theme = useTheme(); return <Theme theme={theme}><Header /></Theme>; }`);
    expect(asking).toContain('    <Theme theme={{}}>\n      {children}\n    </Theme>\n');
  });

  it('keeps in its frame what the entry imports for its effect, and no text that the entry shows', async () => {
    const entry = `import { createRoot } from 'react-dom/client';
import 'core-js/stable';
import './i18n';
import './index.css';
import './sentry';
import { Theme } from './Theme';
createRoot(document.body).render(<Theme theme={{}}><p>Quay</p></Theme>);
`;
    const { plan, text } = await planned({ ...react, 'src/main.tsx': entry });
    expect(found(plan)['set up by']).toBe('core-js/stable, src/i18n');
    expect(text('sguardo.frame.tsx')).toContain(
      `import { Theme } from './src/Theme';
import 'core-js/stable';
import './src/i18n';
import './src/index.css';
`,
    );
    expect(text('sguardo.frame.tsx')).toContain('    <Theme theme={{}}>\n      {children}\n    </Theme>\n');
    const passing = await planned({ ...react, 'src/main.tsx': "import './index.css';\nimport './app';\n" });
    expect(passing.text('sguardo.frame.tsx')).not.toContain('./src/app');
  });

  it('of elements keeps what packages do for all of them, and leaves its own elements to looks', async () => {
    const { text } = await planned({
      'package.json': '{ "dependencies": { "lit": "3" } }',
      'index.html': '<script type="module" src="/src/main.ts"></script>',
      'src/main.ts': "import 'quay-kit/assets.js';\nimport './index.css';\nimport './berth';\n",
      'src/index.css': '',
      'src/berth.ts': 'export class Berth extends HTMLElement {}',
    });
    expect(text('sguardo.frame.ts')).toMatch(/^import 'quay-kit\/assets\.js';\nimport '\.\/src\/index\.css';\n\n/);
  });

  it('is told with all that its looks need', async () => {
    const { plan } = await planned(react);
    expect(found(plan)).toMatchObject({
      framework: 'react 1.0.0',
      Vite: 'vite.config.ts',
      entry: 'src/main.tsx',
      styles: 'src/index.css',
      'around the app': '<QueryClientProvider>, <Theme>',
      marks: 'data-test (2 times)',
    });
    expect(plan).toMatchObject({ look: 'src/Berth.look.tsx', missing: [], lacksTypes: true, there: [] });
  });

  it('gets a frame with what its app has around it, and nothing else', async () => {
    const { text } = await planned(react);
    expect(text('sguardo.frame.tsx')).toBe(`import type { ReactNode } from 'react';
import { useState } from 'react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { theme } from './src/theme';
import { Theme } from './src/Theme';
import './src/index.css';

const options = { retry: 0 };

/** Around every look: what the app puts around its components. */
export default function Frame({ children }: { children: ReactNode }) {
  // Made for each look: what one leaves in it is not there for the next.
  const [client] = useState(() => new QueryClient(options));
  return (
    <QueryClientProvider client={client}>
      <Theme theme={theme}>
        {children}
      </Theme>
    </QueryClientProvider>
  );
}
`);
    expect(text('sguardo.config.ts')).toBe(`import type { Config } from 'sguardo/config';

export default {
  environments: {
    day: {},
    night: { scheme: 'dark' },
  },
  markAttribute: 'data-test',
} satisfies Config;
`);
    expect(text('src/Berth.look.tsx')).toContain("import { Berth } from './Berth';");
  });

  it('keeps what it has', async () => {
    const { plan } = await planned({ ...react, 'sguardo.frame.tsx': 'export default () => null;' });
    expect(plan.there).toEqual(['sguardo.frame.tsx']);
    expect(plan.files.map(({ path }) => path)).toEqual(['sguardo.config.ts', 'src/Berth.look.tsx']);
  });

  it('may be in JavaScript, in a style of its own, without an entry', async () => {
    const { plan, text } = await planned({
      'package.json': dependsOn('react'),
      'src/Berth.jsx': 'import x from "x"\nexport const Berth = ({ name }) => <b>{name}</b>\n',
    });
    expect(plan.files.map(({ path }) => path)).toEqual([
      'sguardo.config.js',
      'sguardo.frame.jsx',
      'src/Berth.look.jsx',
    ]);
    expect(text('sguardo.config.js')).toContain('export default {}');
    expect(text('src/Berth.look.jsx')).toContain('from "./Berth"\n');
    expect(found(plan).entry).toBe('none');
  });

  it('may be one of Preact', async () => {
    const { text } = await planned({ ...react, 'package.json': dependsOn('preact') });
    expect(text('sguardo.frame.tsx')).toMatch(/^import type \{ ComponentChildren \} from 'preact';/);
  });

  it.each([
    ['an entry that cannot be read as code', { 'src/main.tsx': 'createRoot(((' }],
    ['no components', { 'src/App.tsx': '', 'src/Theme.tsx': '', 'src/Berth.tsx': '' }],
    ['an empty package', { 'package.json': '' }],
  ])('with %s is set up all the same', async (_, files) => {
    const { plan } = await planned({ ...react, ...files });
    expect(plan.files.map(({ path }) => path)).toEqual(expect.arrayContaining(['sguardo.config.ts']));
  });
});

describe('other projects', () => {
  it('of Vue have their plugins in the frame, and get the Vite configuration that they lack', async () => {
    const { plan, text } = await planned({
      'package.json': dependsOn('vue'),
      'tsconfig.json': '{}',
      'index.html': html.replace('tsx', 'ts'),
      'src/main.ts': `import { createApp } from 'vue';
import { createPinia } from 'pinia';
import App from './App.vue';
import { router } from './router';
import './style.css';
createApp(App).use(createPinia()).use(router, { deep: true }).mount('#app');
`,
      'src/style.css': '',
      'src/App.vue': '<template><p /></template>',
      // What asks a server would fail at first.
      'src/Arrivals.vue':
        '<script setup lang="ts">const { data } = useQuery({ queryFn: () => 1 });</script><template>' +
        '<p>{{ data }}</p></template>',
      'src/Berth.vue': '<script setup lang="ts">defineProps<{ name: string }>();</script><template><p /></template>',
    });
    expect(plan.missing).toEqual(['@vitejs/plugin-vue', 'vite']);
    expect(text('vite.config.ts')).toContain('plugins: [vue()]');
    const frame = text('sguardo.frame.vue');
    expect(frame).toContain(
      `import { createPinia } from 'pinia';\nimport { router } from './src/router';\nimport './src/style.css';`,
    );
    expect(frame).toContain(
      'export function setup(app: App) {\n  app.use(createPinia());\n  app.use(router, { deep: true });\n}',
    );
    expect(plan.look).toBe('src/Berth.look.ts');
  });

  const vueCompiler = join(repository, 'demo/vue/node_modules');
  it.skipIf(!existsSync(vueCompiler))(
    'of Vue have what their outermost component puts around it in the frame',
    async () => {
      const root = folderOf({
        'package.json': dependsOn('vue', 'vite', '@vitejs/plugin-vue'),
        'tsconfig.json': '{}',
        'index.html': html.replace('tsx', 'ts'),
        'src/main.ts': `import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
createApp(App).use(router).mount('#app');
`,
        'src/App.vue': `<script setup lang="ts">
import { Button, ConfigProvider, dark as night, MessageProvider, Toasts } from 'quay-kit';
import { useRoute } from 'vue-router';
import Header from './Header.vue';
import { tides } from './tides';
import './waves.css';
defineProps<{ title: string }>();
const route = useRoute();
const theme = { ...night, tides };
</script>

<template>
  <!-- Of all of it only what gives something to others. -->
  <div class="page">
    <Header />
    <Toasts rich :most="2" />
    <Toasts v-if="route" />
    <config-provider :theme="theme" size="small"
      @close="route.back()">
      <kit-app :tides="tides" class="a > b">
        <MessageProvider>
          <main><Button>Sail</Button><RouterView v-slot="{ Component }"
            ><component :is="Component" /></RouterView></main>
        </MessageProvider>
      </kit-app>
    </config-provider>
  </div>
</template>

<style lang="scss">p { color: navy; }</style>
<style>@import './own.css';</style>
<style scoped>b { color: red; }</style>
`,
        'src/waves.css': '',
        'src/Berth.vue': '<script setup lang="ts">defineProps<{ name: string }>();</script><template><p /></template>',
      });
      symlinkSync(vueCompiler, join(root, 'node_modules'));
      const { files } = await planFor(root);
      expect(files.find(({ path }) => path === 'sguardo.frame.vue')!.text).toBe(`<script lang="ts">
import type { App } from 'vue';
import { router } from './src/router';
import './src/waves.css';

/** What the app has before it is mounted. */
export function setup(app: App) {
  app.use(router);
}

export default {};
</script>

<script setup lang="ts">
import { MessageProvider, Toasts } from 'quay-kit';
import { tides } from './src/tides';
</script>

<!-- Around every look: what the app puts around its components. -->
<template>
  <kit-app :tides="tides" class="a > b">
    <MessageProvider>
      <slot />
    </MessageProvider>
  </kit-app>
  <Toasts rich :most="2" />
</template>

<style lang="scss">p { color: navy; }</style>
`);
    },
  );

  it('of Angular have their providers and styles in the frame', async () => {
    const { text } = await planned({
      'package.json': dependsOn('@angular/core', '@analogjs/vite-plugin-angular', 'vite'),
      'tsconfig.json': '{}',
      'angular.json':
        '{ "projects": { "x": { "architect": { "build": { "options": { "styles": ["src/styles.css"] } } } } } }',
      'src/styles.css': '',
      'src/main.ts': `import { bootstrapApplication } from '@angular/platform-browser';
import { appConfig } from './app.config';
import { App } from './app';
bootstrapApplication(App, appConfig);
`,
    });
    expect(text('sguardo.frame.ts')).toContain(
      `import { appConfig } from './src/app.config';\nimport './src/styles.css';\n\n`,
    );
    // Nothing in it has to be compiled: whatever the compiler is told of, it works.
    expect(text('sguardo.frame.ts')).toMatch(/\nexport const providers = appConfig\.providers;\n$/);
    expect(text('sguardo.frame.ts')).not.toContain('@Component');
    expect(text('vite.config.ts')).toContain("angular({ tsconfig: 'tsconfig.json' })");
  });

  it('of Angular are compiled as its own configuration of the app says', async () => {
    const { text } = await planned({
      'package.json': dependsOn('@angular/core', '@analogjs/vite-plugin-angular', 'vite'),
      'tsconfig.json': '{ "files": [] }',
      'tsconfig.app.json': '{ "include": ["src/**/*.ts"] }',
    });
    expect(text('vite.config.ts')).toContain('plugins: [angular()]');
  });

  it('of packages have their styles in the frame, in their order', async () => {
    const { plan, text } = await planned({
      'package.json': dependsOn('lit', 'vite'),
      'index.html': html.replace('tsx', 'ts'),
      'src/main.ts': `import 'quay-kit/dist/kit.css';
import 'pier/styles';
import './app.css';
import 'zone.js';
import './gone.css';
import styles from './app.css';
`,
      'src/app.css': '',
    });
    expect(text('sguardo.frame.ts')).toContain(
      `import 'quay-kit/dist/kit.css';\nimport 'pier/styles';\nimport './src/app.css';\n\n/** Around`,
    );
    expect(found(plan).styles).toBe('quay-kit/dist/kit.css, pier/styles, src/app.css');
  });

  it('of Svelte have their styles in the frame', async () => {
    const { text } = await planned({
      'package.json': dependsOn('svelte', 'vite', '@sveltejs/vite-plugin-svelte'),
      'index.html': html.replace('tsx', 'js'),
      'src/main.js': `import './app.css';\nimport App from './App.svelte';\n`,
      'src/app.css': '',
      'src/Berth.svelte': '<script>let { name } = $props();</script><p>{name}</p>',
    });
    expect(text('sguardo.frame.svelte')).toContain(
      `<script>\n  import './src/app.css';\n  let { children } = $props();\n</script>`,
    );
    expect(text('src/Berth.look.js')).toContain("import Berth from './Berth.svelte';");
  });

  const svelteKit = {
    'package.json': dependsOn('svelte', 'vite', '@sveltejs/kit'),
    'src/routes/+layout.svelte': `<script lang="ts">
  import '../app.css';
  import Quay from '../lib/Quay.svelte';
  import Header from '$lib/Header.svelte';
  import { setFees } from '$lib/fees';
  import { setTides } from '../tides';
  import { watchClock } from '../clock';
  import { Toaster } from 'quay-kit';
  let { children, data } = $props();
  const side = 'east';
  setFees({ perMetre: 4.5 });
  setTides(data.tides);
  watchClock();
</script>

<Header title={data.title} />
<div><Toaster most={2} /></div>
<Toaster most={data.most} />
<Quay {side} onleave={() => {}}>
  {#if data.open}<main>{@render children()}</main>{/if}
</Quay>
`,
    'src/app.css': '',
    'src/lib/Quay.svelte': '<script>let { children } = $props();</script>{@render children()}',
  };

  it('of SvelteKit have what their outermost layout sets up in the frame', async () => {
    const { plan, text } = await planned(svelteKit);
    expect(found(plan)).toMatchObject({ entry: 'src/routes/+layout.svelte', styles: 'src/app.css' });
    const frame = text('sguardo.frame.svelte');
    expect(frame).toContain("import { setFees } from '$lib/fees'");
    expect(frame).toContain("import './src/app.css'");
    expect(frame).toContain('\n  setFees({ perMetre: 4.5 })');
    // What the layout is given by its page is not there; what is not set up is nobody's concern.
    expect(frame).not.toMatch(/setTides|watchClock|Header/);
  });

  const compiler = join(repository, 'demo/svelte/node_modules');
  it.skipIf(!existsSync(compiler))('of SvelteKit have the components around their pages in the frame', async () => {
    const root = folderOf(svelteKit);
    symlinkSync(compiler, join(root, 'node_modules'));
    const { files } = await planFor(root);
    const frame = files.find(({ path }) => path === 'sguardo.frame.svelte')!.text;
    expect(frame).toMatch(/import Quay from '\.\/src\/lib\/Quay\.svelte'/);
    expect(frame).toContain("const side = 'east'");
    expect(frame).toContain("import { Toaster } from 'quay-kit'");
    expect(frame).toContain(
      '<Quay {side} onleave={() => {}}>\n  {@render children()}\n</Quay>\n<Toaster most={2} />\n',
    );
    expect(frame).not.toContain('data.most');
  });

  it.skipIf(!existsSync(compiler))(
    'of Svelte have the providers that their first component holds in the frame',
    async () => {
      const root = folderOf({
        'package.json': dependsOn('svelte', 'vite', '@sveltejs/vite-plugin-svelte'),
        'index.html': html.replace('tsx', 'js'),
        'src/main.js': `import App from './App.svelte';\n`,
        'src/App.svelte': `<script>
  import { TideProvider, TideClient } from 'tides';
  import Header from './Header.svelte';
  import Berth from './Berth.svelte';
  const client = new TideClient({ retries: 1 });
</script>
<div class="app">
  <TideProvider {client}><Header title="Quay"><Berth /></Header></TideProvider>
</div>`,
        'src/Header.svelte': '<script>let { children } = $props();</script>{@render children()}',
        'src/Berth.svelte': '<p>C-14</p>',
      });
      symlinkSync(compiler, join(root, 'node_modules'));
      const { files } = await planFor(root);
      const frame = files.find(({ path }) => path === 'sguardo.frame.svelte')!.text;
      expect(frame).toContain("import { TideProvider, TideClient } from 'tides'");
      expect(frame).toContain('const client = new TideClient({ retries: 1 })');
      expect(frame).toContain('<TideProvider {client}>\n  {@render children()}\n</TideProvider>');
      expect(frame).not.toMatch(/Header|<Berth/);
    },
  );

  it('of a router that renders their root have what is around its pages in the frame', async () => {
    const { plan, text } = await planned({
      'package.json': dependsOn('react', 'vite', '@react-router/dev'),
      'app/root.tsx': `import { Outlet } from 'react-router';
import { Tides } from '~/tides';
import './app.css';
export function Layout({ children }) {
  return <html><body>{children}</body></html>;
}
export default function App() {
  return (
    <Tides station="Molo Est">
      <Outlet />
    </Tides>
  );
}
`,
      'app/app.css': '',
      'app/Berth.tsx': 'export const Berth = () => <p>C-14</p>;',
    });
    expect(plan.found).toContainEqual(['entry', 'app/root.tsx']);
    expect(text('sguardo.frame.tsx')).toContain('<Tides station="Molo Est">\n      {children}\n    </Tides>');
    expect(text('sguardo.frame.tsx')).toContain("import './app/app.css';");
  });

  it.each([
    [
      'a layout',
      'src/app/layout.tsx',
      `export default async function RootLayout({ children }: { children: React.ReactNode }) {
  const words = await load();
  return (
    <html lang="en" className={font.variable}>
      <body className="calm">
        <WordsProvider words={words}>
          <Tides station="Molo Est" words={4}>
            <Header />
            <main>{children}</main>
            <Toaster richColors />
          </Tides>
        </WordsProvider>
      </body>
    </html>
  );
}`,
    ],
    [
      'an app that is told of its page',
      'pages/_app.tsx',
      `const App = ({ Component, pageProps }) => (
  <WordsProvider words={pageProps.words}>
    <Tides station="Molo Est" words={4}>
      <Component {...pageProps} />
      <Toaster richColors />
    </Tides>
  </WordsProvider>
);
export default App;`,
    ],
  ])('of a framework that renders %s have what is around all pages in the frame', async (_, path, root) => {
    const imports = `import { Tides, Toaster, WordsProvider } from '@/quay';\nimport './app.css';\n`;
    const folder = path.slice(0, path.lastIndexOf('/'));
    const { plan, text } = await planned({
      'package.json': dependsOn('react', 'quay'),
      [path]: imports + root,
      [`${folder}/app.css`]: '',
      'src/Berth.tsx': 'export const Berth = () => <p>C-14</p>;',
    });
    expect(plan.found).toContainEqual(['entry', path]);
    expect(text('sguardo.frame.tsx')).toContain(`
    <Tides station="Molo Est" words={4}>
      {children}
      <Toaster richColors />
    </Tides>
`);
    expect(text('sguardo.frame.tsx')).toContain("import { Tides, Toaster } from '@/quay';");
    expect(text('sguardo.frame.tsx')).toContain(`import './${folder}/app.css';`);
    expect(text('sguardo.frame.tsx')).not.toMatch(/WordsProvider|Header|main/);
  });

  it('without components have a look of the page as a whole', async () => {
    const { plan, text } = await planned({
      'package.json': '{ "devDependencies": { "vite": "8" } }',
      'index.html': '<body>\n<div id="app">`${1}`</div><script type="module" src="/src/main.js"></script></body>',
      'src/main.js': `document.querySelector('#app').innerHTML = 'x';`,
    });
    expect(plan.look).toBe('src/page.look.js');
    expect(text('src/page.look.js')).toContain("queueMicrotask(() => import('./main'))");
    expect(text('src/page.look.js')).toContain('innerHTML = `<div id="app">\\`\\${1}\\`</div>`');
  });
});

describe('a monorepo', () => {
  const files = {
    'package.json': '{ "workspaces": ["apps/*", "packages/*"] }',
    'apps/office/package.json': dependsOn('react'),
    'packages/tides/package.json': '{}',
  };

  it('has its looks in the package with components', () => {
    const root = folderOf(files);
    expect(packageFor(root)).toBe(join(root, 'apps/office'));
    mkdirSync(join(root, 'apps/office/src'));
    expect(packageFor(join(root, 'apps/office/src'))).toBe(join(root, 'apps/office'));
    expect(packageFor(join(root, 'packages/tides'))).toBe(join(root, 'packages/tides'));
  });

  it('with several of them has to be told which, whoever manages it', () => {
    const root = folderOf({
      ...files,
      'package.json': '{}',
      'pnpm-workspace.yaml': "packages:\n  - 'apps/*'\n  - 'kits/*'\n",
      'kits/flags/package.json': dependsOn('svelte'),
    });
    expect(() => packageFor(root)).toThrow(/has several packages with components/);
  });
});
