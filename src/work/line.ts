/** Lines that somebody tries: as functions that the page can call, if they can be understood at all. */
import { Script } from 'node:vm';
import { fail, messageOf } from '../core/problem/problem.ts';

/** Why a text is no code; null for what is. Nothing of it is run. */
function objection(code: string): string | null {
  try {
    new Script(code);
    return null;
  } catch (error) {
    const said = messageOf(error);
    // It is the end of what is put around it that comes too early.
    const isOpen = said === "Unexpected token '}'" || said.startsWith('missing ) after');
    return isOpen ? 'a bracket or a quote in it is not closed' : said;
  }
}

/**
 * The code of a function that is given everything that a line can name, and runs it: an expression, whose value it
 * gives, or several statements. @throws ProblemError `line-wrong`
 */
export function functionOf(text: string): string {
  const line = text.trim().replace(/;+$/, '');
  const around = (body: string): string => `(async (scope) => { with (scope) { ${body}\n} })`;
  const expression = around(`return (${line}\n);`);
  const why = objection(expression);
  if (line !== '' && why === null) return expression;
  const statements = around(line);
  const wrong = line === '' ? 'it is empty' : objection(statements);
  return wrong === null ? statements : fail('line-wrong', { error: wrong });
}
