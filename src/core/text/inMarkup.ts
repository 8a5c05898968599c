/** A text as HTML and XML write it, between tags and in the quoted value of an attribute. */
export const inMarkup = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
