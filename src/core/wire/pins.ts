/**
 * What is held still in every document of ours, so that the same input gives the same pixels: the blinking
 * caret. Running animations are finished by the page itself. The same sheet is used when a moment is drawn again.
 */
export const pinnedCss = '*,*::before,*::after{caret-color:transparent!important}';
