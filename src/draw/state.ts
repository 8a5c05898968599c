/** Gives drawn elements the state that recorded ones had besides their attributes. */
import type { ElementState } from '../core/moment/moment.ts';
import { heldId } from '../core/moment/rest.ts';
import { customAttribute, stateAttributes } from '../core/moment/restyle.ts';

/** Opens a modal dialog that takes no focus: that would be taken from whoever looks at it. */
function showWithoutFocus(dialog: HTMLDialogElement): void {
  dialog.inert = true;
  dialog.showModal();
  dialog.inert = false;
  (dialog.ownerDocument.activeElement as HTMLElement | null)?.blur();
}

function setInput(input: HTMLInputElement, state: ElementState): void {
  if (input.type === 'checkbox' || input.type === 'radio') {
    input.checked = state.checked === true;
    input.indeterminate = state.indeterminate === true;
  } else if (input.type !== 'file' && input.value !== (state.value ?? '')) input.value = state.value ?? '';
}

function setSelect(select: HTMLSelectElement, { selected = [] }: ElementState): void {
  const chosen = new Set(selected);
  Array.from(select.options).forEach((option, i) => {
    option.selected = chosen.has(i);
  });
}

function setDialog(dialog: HTMLDialogElement, state: ElementState): void {
  if (state.dialog === 'modal' && !dialog.open && dialog.isConnected) showWithoutFocus(dialog);
  else if (!state.dialog && dialog.open) dialog.close();
}

function setPopover(element: HTMLElement, state: ElementState): void {
  if (!element.hasAttribute('popover') || !element.isConnected) return;
  const isOpen = element.matches(':popover-open');
  if (state.popover && !isOpen) element.showPopover();
  else if (!state.popover && isOpen) element.hidePopover();
}

/** Holds what animations made of an element; what held it before is let go. */
function hold(element: Element, animated: ElementState['animated']): void {
  for (const one of element.getAnimations({ subtree: true })) {
    const { target } = one.effect as KeyframeEffect;
    if (one.id === heldId && target === element) one.cancel();
  }
  for (const [pseudo, values] of Object.entries(animated ?? {})) {
    const pseudoElement = pseudo === '' ? undefined : pseudo;
    try {
      // It stands between two equal keyframes, and is drawn in a layer of its own like one that runs.
      element.animate([values, values], { id: heldId, duration: 1e9, fill: 'both', pseudoElement }).pause();
    } catch {
      // A pseudo-element that this browser does not know.
    }
  }
}

/**
 * Sets the state of an element that is in its document. Elements of frames are of other realms: they are told by
 * name.
 */
export function setState(element: Element, state: ElementState): void {
  switch (element.localName) {
    case 'input':
      setInput(element as HTMLInputElement, state);
      break;
    case 'textarea': {
      const area = element as HTMLTextAreaElement;
      if (area.value !== (state.value ?? '')) area.value = state.value ?? '';
      break;
    }
    case 'select':
      setSelect(element as HTMLSelectElement, state);
      break;
    case 'dialog':
      setDialog(element as HTMLDialogElement, state);
      break;
    case 'svg':
      if ((element as SVGSVGElement).ownerSVGElement) break;
      (element as SVGSVGElement).pauseAnimations();
      (element as SVGSVGElement).setCurrentTime(state.seconds ?? 0);
      break;
    case 'canvas':
      // Where scripts are off a canvas is an element like any other, so its pixels replace its content.
      (element as HTMLElement).style.content = state.pixels ? `url("${state.pixels}")` : '';
      break;
  }
  setPopover(element as HTMLElement, state);
  hold(element, state.animated);
  if (state.custom) element.setAttribute(customAttribute, state.custom.join(' '));
  else element.removeAttribute(customAttribute);
  element.toggleAttribute(stateAttributes['user-invalid'], state.user === 'invalid');
  element.toggleAttribute(stateAttributes['user-valid'], state.user === 'valid');
  if (!state.scroll && (element.scrollTop !== 0 || element.scrollLeft !== 0)) element.scrollTo(0, 0);
}
