/** TypeScript itself. Required, as importing it has Node search its nine megabytes for names, which takes a second. */
import { createRequire } from 'node:module';
import type ts from 'typescript';

const require = createRequire(import.meta.url);

/** Where it lies, with what it knows of the platform. */
export const compilerFile = require.resolve('typescript');

export const compiler = require('typescript') as typeof ts;
