/** Scripts that are built by themselves: nothing that a project says of building has a part in it. */
import type { Plugin, Rolldown } from 'vite';
import { frameworkPackages } from './kinds.ts';

type Vite = typeof import('vite');

/** What is built, and how it differs from what is built so otherwise. */
type Wanted = {
  plugins: Plugin[];
  input: Record<string, string>;
  output: Rolldown.OutputOptions;
  external?: RegExp;
  sourcemap?: 'hidden';
};

/** Builds scripts for pages as they are developed; white space and comments are left out, names stay as they are. */
export async function buildAlone(
  vite: Vite,
  root: string,
  { plugins, input, output, external, sourcemap }: Wanted,
): Promise<[Rolldown.OutputChunk, ...Rolldown.OutputChunk[]]> {
  const built = (await vite.build({
    configFile: false,
    envFile: false,
    publicDir: false,
    root,
    mode: 'development',
    logLevel: 'silent',
    resolve: { dedupe: [...frameworkPackages] },
    plugins,
    build: {
      write: false,
      minify: false,
      target: 'esnext',
      modulePreload: false,
      reportCompressedSize: false,
      chunkSizeWarningLimit: 100_000,
      ...(sourcemap && { sourcemap }),
      rollupOptions: {
        input,
        ...(external && { external }),
        preserveEntrySignatures: 'strict',
        output: {
          minify: { compress: false, mangle: false, codegen: { removeWhitespace: true } },
          comments: false,
          ...output,
        },
      },
    },
  })) as Rolldown.RolldownOutput;
  return built.output.filter((one) => one.type === 'chunk') as [Rolldown.OutputChunk, ...Rolldown.OutputChunk[]];
}
