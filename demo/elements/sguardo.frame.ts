import '../harbour/src/harbour.css';

/** Around every look: the kit's styles, and the paper that its components lie on. */
export default function frame(content: Node): Node {
  const main = document.createElement('main');
  main.className = 'sheet';
  main.append(content);
  return main;
}
