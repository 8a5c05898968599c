/** What a piece of a module needs around it to stand elsewhere: imports, and statements of the module itself. */
import { posix } from 'node:path';
import type ts from 'typescript';
import { compiler } from '../props/compiler.ts';

/** `imports` and `statements` are source text, in the order in which they stand in their module. */
export type Needed = { imports: string[]; statements: string[] };

function namesIn(node: ts.Node, names: Set<string>): void {
  if (compiler.isIdentifier(node)) names.add(node.text);
  compiler.forEachChild(node, (child) => namesIn(child, names));
}

function boundBy({ importClause }: ts.ImportDeclaration): { name: string; text: string; isDefault: boolean }[] {
  if (!importClause) return [];
  const own = importClause.name
    ? [{ name: importClause.name.text, text: importClause.name.text, isDefault: true }]
    : [];
  const { namedBindings } = importClause;
  if (!namedBindings) return own;
  if (compiler.isNamespaceImport(namedBindings))
    return [...own, { name: namedBindings.name.text, text: `* as ${namedBindings.name.text}`, isDefault: true }];
  return [
    ...own,
    ...namedBindings.elements.map((one) => ({ name: one.name.text, text: one.getText(), isDefault: false })),
  ];
}

/** An import of only the names that are wanted, from the root of the project. */
function importOf(one: ts.ImportDeclaration, folder: string, names: ReadonlySet<string>): string | null {
  const wanted = boundBy(one).filter(({ name }) => names.has(name));
  if (wanted.length === 0) return null;
  const { text } = one.moduleSpecifier as ts.StringLiteral;
  const quote = one.moduleSpecifier.getText()[0];
  const moved = text.startsWith('.') ? `./${posix.join(folder, text)}` : text;
  const inBraces = wanted.filter(({ isDefault }) => !isDefault).map((one) => one.text);
  const parts = [
    ...wanted.filter(({ isDefault }) => isDefault).map((one) => one.text),
    ...(inBraces.length > 0 ? [`{ ${inBraces.join(', ')} }`] : []),
  ];
  return `import ${parts.join(', ')} from ${quote}${moved}${quote}`;
}

function declaredBy(statement: ts.Statement): string[] {
  if (compiler.isVariableStatement(statement))
    return statement.declarationList.declarations.flatMap(({ name }) => {
      const names = new Set<string>();
      namesIn(name, names);
      return [...names];
    });
  const { name } = statement as ts.FunctionDeclaration;
  return (compiler.isFunctionDeclaration(statement) || compiler.isClassDeclaration(statement)) && name
    ? [name.text]
    : [];
}

/** What these nodes of a file in `folder` need. */
export function importsNeeded(file: ts.SourceFile, folder: string, nodes: readonly ts.Node[]): Needed {
  const names = new Set<string>();
  for (const node of nodes) namesIn(node, names);
  const statements = new Set<ts.Statement>();
  // What a statement needs may be another one.
  for (let before = -1; before !== statements.size; ) {
    before = statements.size;
    for (const statement of file.statements)
      if (declaredBy(statement).some((name) => names.has(name))) {
        statements.add(statement);
        namesIn(statement, names);
      }
  }
  const imports = file.statements.filter(compiler.isImportDeclaration);
  return {
    imports: imports.flatMap((one) => importOf(one, folder, names) ?? []),
    statements: file.statements.filter((one) => statements.has(one)).map((one) => one.getText(file)),
  };
}
