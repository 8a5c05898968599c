/**
 * Which modules a plugin of ours is asked about. A build of a component library has thousands of modules, and whoever
 * is asked about each of them takes longer than all the rest. Vite before 6.3 asks about all the same: what a plugin
 * does must not depend on its filter.
 */
import { escaped } from '../core/text/escaped.ts';

/** Ids that begin with one of these. */
export const beginningWith = (...texts: string[]): RegExp => new RegExp(`^(?:${texts.map(escaped).join('|')})`);

/** Ids that are one of these. */
export const oneOf = (...texts: string[]): RegExp => new RegExp(`^(?:${texts.map(escaped).join('|')})$`);

/** Modules of the project: neither of packages, nor made up by a plugin. */
export const ofProject = { exclude: [/^\0/, /^[^?#]*node_modules/] };

/** True for the id of such a module. */
export const isOfProject = (id: string): boolean => !ofProject.exclude.some((one) => one.test(id));
