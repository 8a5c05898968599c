/** Ids that a framework counts up through a document: which number one gets depends on what was rendered before. */
const countedId = /(?:«r|:r|_r_)[0-9a-z]+(?:»|:|_)/g;

/** Replaces counted ids by their order of appearance, so that they say what refers to what and nothing else. */
export function idNames(): (value: string) => string {
  const names = new Map<string, string>();
  return (value) =>
    value.replace(countedId, (id) => {
      const name = names.get(id) ?? `‹id ${names.size + 1}›`;
      names.set(id, name);
      return name;
    });
}
