/** Syntax trees of TypeScript from their root down. */
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';

/** Visits a node and all that is in it. */
export function walk(node: ts.Node, visit: (node: ts.Node) => void): void {
  visit(node);
  compiler.forEachChild(node, (child) => walk(child, visit));
}
