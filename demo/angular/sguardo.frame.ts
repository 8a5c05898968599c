import { ChangeDetectionStrategy, Component } from '@angular/core';
import '../harbour/src/harbour.css';

/** Around every look: the kit's styles, and the paper that its components lie on. */
@Component({
  selector: 'harbour-frame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<main class="sheet"><ng-content /></main>',
})
export default class Frame {}
