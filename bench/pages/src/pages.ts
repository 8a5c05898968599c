/**
 * Pages that nobody looked at while the rules were written, and what is wrong with each: the rule, and a part of the
 * element's description. Whatever else is found for certain is an invention.
 */
import type { RuleId } from '../../../src/core/accessibility/rules.ts';

export type Page = { name: string; html: string; truth: [RuleId, string][] };

const gif = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';

/** A table of some 300 elements, some of which may be stops of Tab. */
function table(isBusy: boolean): string {
  const cells = (i: number): string =>
    isBusy
      ? `<a href="#b${i}">Open ${i}</a></td><td><button>Book ${i}</button>`
      : `<i>Open ${i}</i></td><td><b>Book ${i}</b>`;
  const rows = Array.from(
    { length: 35 },
    (_, i) => `<tr><th scope="row">Berth ${i}</th><td>${i + 2} m</td><td>Free</td><td>${cells(i)}</td></tr>`,
  );
  return `<main><h1>Berths</h1><table><caption>All berths</caption><thead><tr><th scope="col">Name</th>
      <th scope="col">Depth</th><th scope="col">State</th><th scope="col">More</th><th scope="col">Book</th>
      </tr></thead><tbody>${rows.join('')}</tbody></table></main>`;
}

export const pages: Page[] = [
  { name: 'a table of 300 elements', html: table(false), truth: [] },
  { name: 'a table of 300 elements with 70 stops of Tab', html: table(true), truth: [] },
  {
    name: 'navigation, right',
    html: `<header><nav aria-label="Main"><ul><li><a href="#a" aria-current="page">Berths</a></li><li>
      <a href="#b">Tides</a></li></ul></nav></header><main><h1>Berths</h1><p>See <a href="#c">fees</a>.</p>
      </main><footer><nav aria-label="Legal"><a href="#d">Imprint</a></nav></footer>`,
    truth: [],
  },
  {
    name: 'a form, right',
    html: `<form aria-label="Arrival"><p>
      <label for="v">Vessel</label> <input id="v" autocomplete="off" required></p><fieldset>
      <legend>Purpose</legend><label><input type="radio" name="p"> Shelter</label> <label>
      <input type="radio" name="p"> Cargo</label></fieldset><p><label>Notes <textarea aria-describedby="h">
      </textarea></label></p><p id="h">Not more than 200 characters</p><label>
      <input type="checkbox"> I know the rules</label><p><button>Send</button></p></form>`,
    truth: [],
  },
  {
    name: 'a form, wrong',
    html: `<form><input type="text" name="vessel"><p>Draught: <select name="d"><option>1 m</option></select></p>
      <label for="nobody">Notes</label><p><textarea></textarea></p><p style="margin-top:40px">
      <button type="submit" style="width:40px;height:40px"><img src="${gif}" alt=""></button></p></form>`,
    truth: [
      ['field-has-label', '<input'],
      ['field-has-label', '<select'],
      ['field-has-label', '<textarea'],
      ['label-leads-somewhere', '<label'],
      ['button-has-name', '<button'],
    ],
  },
  {
    name: 'tabs, right',
    html: `<div role="tablist" aria-label="Tides">
      <button role="tab" aria-selected="true" aria-controls="p1" id="t1">Today</button>
      <button role="tab" aria-selected="false" tabindex="-1" id="t2">Tomorrow</button></div>
      <div role="tabpanel" id="p1" aria-labelledby="t1" tabindex="0">High at 6:10</div>`,
    truth: [],
  },
  {
    name: 'tabs, wrong',
    html: `<div class="tabs"><div role="tab" tabindex="0" aria-selected="true">Today</div>
      <div role="tab" aria-selected="maybe" tabindex="-1">Tomorrow</div></div>`,
    truth: [
      ['parent-is-there', 'Today'],
      ['parent-is-there', 'Tomorrow'],
      ['attribute-has-a-value', 'Tomorrow'],
    ],
  },
  {
    name: 'a dialog, right',
    html: `<div role="dialog" aria-modal="true" aria-labelledby="dt" aria-describedby="dd">
      <h2 id="dt">Release berth?</h2><p id="dd">The vessel leaves.</p>
      <button>Release</button> <button>Keep</button></div>`,
    truth: [],
  },
  {
    name: 'a menu button and a combobox, right',
    html: `<button aria-haspopup="menu" aria-expanded="false">More</button>
      <div role="menu" aria-label="More" hidden><div role="menuitem" tabindex="-1">Copy</div></div><p>
      <label id="cl">Port</label>
      <input role="combobox" aria-labelledby="cl" aria-expanded="true" aria-controls="cb"
        aria-autocomplete="list" aria-activedescendant="o1">
      </p><ul role="listbox" id="cb" aria-labelledby="cl">
      <li role="option" id="o1" aria-selected="true">Ancona</li><li role="option">Bari</li></ul>`,
    // The label holds no field, and names it from outside.
    truth: [],
  },
  {
    name: 'a tree and a grid, right',
    html: `<ul role="tree" aria-label="Quays">
      <li role="treeitem" aria-expanded="true" tabindex="0">North<ul role="group">
      <li role="treeitem" tabindex="-1">N1</li></ul></li></ul><div role="grid" aria-label="Days">
      <div role="row"><div role="columnheader">Mon</div><div role="columnheader">Tue</div></div><div role="row">
      <div role="gridcell" tabindex="0">1</div><div role="gridcell" tabindex="-1">2</div></div></div>`,
    truth: [],
  },
  {
    name: 'a toolbar of icons, wrong',
    html: `<div role="toolbar" aria-label="Text"><a href="#x"><svg width="24" height="24"></svg>
      </a> <span role="button">Bold</span> <div role="slider" tabindex="0" aria-label="Size">
      </div> <button tabindex="2">Later</button></div>`,
    truth: [
      ['link-has-name', '<a>'],
      ['widget-can-have-focus', 'Bold'],
      ['role-has-its-states', 'Size'],
      ['tab-order-is-natural', 'Later'],
    ],
  },
  {
    name: 'texts on colours',
    html: `<p style="background:#0b5;color:#fff;padding:8px">White on green</p>
      <p style="background:#036;color:#fff;padding:8px">White on navy</p>
      <p style="color:#6b6b6b">Grey on white</p><p style="color:#b0b0b0">Pale grey</p>
      <p style="font-size:26px;color:#8c8c8c">Large grey</p>
      <p style="background:linear-gradient(#fff,#eee);color:#222">On a light gradient</p>
      <button disabled style="color:#aaa">Off</button><p style="background:#222;color:#fff">
      <span style="opacity:.95">Nearly white</span></p>`,
    truth: [
      ['text-has-contrast', 'White on green'],
      ['text-has-contrast', 'Pale grey'],
    ],
  },
  {
    name: 'cards with images',
    html: `<section aria-label="Vessels"><h2>Vessels</h2><ul><li><article>
      <img src="${gif}" alt="Tramontana" width="40" height="40"><h3>Tramontana</h3><p>Free since May</p>
      <a href="#1">Open Tramontana</a></article></li><li><article><img src="${gif}" width="40" height="40">
      <h3>Libeccio</h3><a href="#2">Open Libeccio</a></article></li></ul></section>`,
    truth: [['picture-has-text', '<img']],
  },
  {
    name: 'status and progress, right',
    html: `<div role="status">Saved</div><div role="alert">The gale has come</div>
      <div role="progressbar" aria-label="Loading" aria-valuenow="3" aria-valuemax="9"></div>
      <progress aria-label="Tide" value="2" max="3"></progress><output>12</output><details>
      <summary>More</summary><p>Text</p></details><figure><img src="${gif}" alt="Chart">
      <figcaption>Depths</figcaption></figure>`,
    truth: [],
  },
  {
    name: 'lists and headings, wrong',
    html: `<h2>Notices</h2><h3></h3><ul><p>Stray</p><li>Gale</li></ul><div><li>Lost</li></div><nav>A</nav><nav>B</nav>`,
    truth: [
      ['heading-has-text', 'heading'],
      ['heading-has-text', '<h3'],
      ['list-holds-items', 'list'],
      ['list-holds-items', '<ul'],
      ['item-is-in-list', 'Lost'],
      ['landmarks-are-told-apart', 'navigation'],
      ['landmarks-are-told-apart', '<nav'],
    ],
  },
  {
    name: 'hidden things, right',
    html: `<div hidden><img src="${gif}"><button></button></div><div style="display:none"><input></div>
      <p style="position:absolute;left:-9999px">For readers</p><svg aria-hidden="true" width="20" height="20">
      </svg><div inert><button>Off</button></div><span aria-hidden="true">★★★</span><p>Three stars</p>`,
    truth: [],
  },
  {
    name: 'a chart in a link',
    html: `<a href="#c" aria-label="Open the chart of depths">
      <svg role="img" aria-label="Depths" width="60" height="30"></svg></a><p>
      <button aria-pressed="true">Follow</button> <label><input type="checkbox" role="switch"> Lights</label>
      </p><div role="group" aria-label="Size"><button>S</button> <button>M</button></div>`,
    truth: [],
  },
];
