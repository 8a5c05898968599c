/** Every rule of accessibility, against markup that breaks it and markup that does not, in a real browser. */
import { beforeAll, describe, expect, test } from 'vitest';
import { type RuleId, rules } from '../../src/core/accessibility/rules.ts';
import type { ListedFinding } from '../../src/core/accessibility/listing.ts';
import { configuration, project } from '../support/project.ts';
import { serve } from '../support/service.ts';

/** Markup that breaks a rule, and markup that keeps it. */
type Fixture = { wrong: string[]; right: string[] };

const pixel = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';
const tiny = 'style="width:16px;height:16px;padding:0;border:0;font-size:8px"';

const drawing = (inside: string, box = '0 0 200 40'): string =>
  `<svg width="200" height="40" viewBox="${box}">${inside}</svg>`;

const fixtures: Record<RuleId, Fixture> = {
  'picture-has-text': {
    wrong: [`<img src="${pixel}">`],
    right: [
      `<img src="${pixel}" alt="Berth">`,
      `<img src="${pixel}" alt="">`,
      `<img src="${pixel}" role="none">`,
      `<img src="${pixel}" aria-label="Berth">`,
    ],
  },
  'picture-text-is-no-file': {
    wrong: [`<img src="${pixel}" alt="quay_03.JPG">`],
    right: [`<img src="${pixel}" alt="The quay">`],
  },
  'drawing-has-text': {
    wrong: ['<svg role="img" width="9" height="9"></svg>', '<div role="img">A</div>'],
    right: [
      '<svg role="img" width="9" height="9"><title>Tide</title></svg>',
      '<svg width="9" height="9" aria-hidden="true"></svg>',
      '<svg width="9" height="9"></svg>',
    ],
  },
  'image-button-has-text': {
    wrong: [`<input type="image" src="${pixel}">`],
    right: [`<input type="image" src="${pixel}" alt="Search">`],
  },
  'area-has-text': {
    wrong: [
      `<img alt="Map" src="${pixel}" usemap="#m"><map name="m"><area href="#a" shape="rect" coords="0,0,9,9"></map>`,
    ],
    right: [
      `<img alt="Map" src="${pixel}" usemap="#m"><map name="m">` +
        '<area href="#a" alt="North" shape="rect" coords="0,0,9,9"></map>',
    ],
  },
  'object-has-text': {
    wrong: ['<object style="width:20px;height:20px;display:block"></object>'],
    right: ['<object aria-label="Chart" style="width:20px;height:20px"></object>'],
  },
  'button-has-name': {
    wrong: [
      '<button></button>',
      '<button><svg width="9" height="9" aria-hidden="true"></svg></button>',
      '<div role="button" tabindex="0"></div>',
    ],
    right: [
      '<button>Go</button>',
      '<button aria-label="Go"><svg width="9" height="9"></svg></button>',
      '<button title="Go"></button>',
      '<input type="submit">',
      '<button hidden></button>',
    ],
  },
  'link-has-name': {
    wrong: ['<a href="#a"></a>', '<span role="link" tabindex="0"></span>'],
    right: ['<a href="#a">Tides</a>', `<a href="#a"><img alt="Tides" src="${pixel}"></a>`],
  },
  'field-has-label': {
    wrong: ['<input>', '<select><option>A</option></select>', '<textarea></textarea>', '<div>Name <input></div>'],
    right: [
      '<label>Name <input></label>',
      '<label for="f">Name</label><input id="f">',
      '<input aria-label="Name">',
      '<input type="hidden">',
      '<input type="submit" value="">',
    ],
  },
  'label-is-visible': {
    wrong: ['<input placeholder="Name">', '<input title="Name">'],
    right: ['<label>Name <input placeholder="as in Ada"></label>'],
  },
  'widget-has-name': {
    wrong: [
      '<div role="checkbox" aria-checked="false" tabindex="0"></div>',
      '<div role="tablist"><div role="tab" tabindex="0"></div></div>',
      '<progress value="1" max="2"></progress>',
    ],
    right: [
      '<div role="checkbox" aria-checked="false" tabindex="0">Lit</div>',
      '<progress value="1" max="2" aria-label="Loading"></progress>',
    ],
  },
  'dialog-has-name': {
    wrong: ['<div role="dialog">Sure?</div>'],
    right: [
      '<div role="dialog" aria-label="Release">Sure?</div>',
      '<div role="dialog" aria-labelledby="t"><h2 id="t">Release</h2></div>',
    ],
  },
  'frame-has-name': { wrong: ['<iframe srcdoc="a"></iframe>'], right: ['<iframe srcdoc="a" title="Chart"></iframe>'] },
  'group-has-name': {
    wrong: [
      '<div role="radiogroup">A</div>',
      '<fieldset>A</fieldset>',
      '<label><input type="radio" name="pier">North</label><label><input type="radio" name="pier">South</label>',
    ],
    right: [
      '<fieldset><legend>Pier</legend><label><input type="radio" name="pier">North</label><label>' +
        '<input type="radio" name="pier">South</label></fieldset>',
      '<label><input type="radio" name="pier">North</label><label><input type="radio" name="quay">South</label>',
      '<div role="radiogroup" aria-label="Purpose">A</div>',
      '<fieldset><legend>Purpose</legend>A</fieldset>',
    ],
  },
  'region-has-name': {
    wrong: ['<div role="region">A</div>'],
    right: ['<div role="region" aria-label="Tides">A</div>', '<section>A</section>'],
  },
  'tabpanel-has-name': {
    wrong: ['<div role="tabpanel">A</div>'],
    right: ['<div role="tabpanel" aria-label="Tides">A</div>'],
  },
  'name-holds-what-is-seen': {
    wrong: ['<button aria-label="Submit form">Book arrival</button>'],
    right: ['<button aria-label="Book arrival at C-14">Book arrival</button>', '<button aria-label="Close">×</button>'],
  },
  'same-name-same-place': {
    wrong: ['<p><a href="#a">More</a> and <a href="#b">More</a></p>'],
    right: ['<p><a href="#a">More</a> and <a href="#a">More</a></p>'],
  },
  'heading-has-text': {
    wrong: ['<h2></h2>', '<div role="heading" aria-level="2"></div>'],
    right: ['<h2>Tides</h2>', `<h2><img alt="Tides" src="${pixel}"></h2>`],
  },
  'summary-has-text': {
    wrong: ['<details><summary></summary>A</details>'],
    right: ['<details><summary>More</summary>A</details>'],
  },
  'role-exists': {
    wrong: ['<div role="buton">A</div>'],
    right: ['<div role="note">A</div>', '<div role="doc-tip">A</div>', '<div role="foo note">A</div>'],
  },
  'role-is-concrete': { wrong: ['<div role="widget">A</div>'], right: ['<div role="group">A</div>'] },
  'role-fits-element': {
    wrong: [
      '<h2 role="button">A</h2>',
      '<label role="button">A</label>',
      '<button role="heading" aria-level="2">A</button>',
    ],
    right: [
      '<button role="switch" aria-checked="true">A</button>',
      '<ul role="tablist"><li role="tab" tabindex="0">A</li></ul>',
    ],
  },
  'role-says-more': {
    wrong: ['<button role="button">A</button>', '<nav role="navigation">A</nav>'],
    right: ['<ul role="list"><li>A</li></ul>', '<a role="link" tabindex="0">A</a>'],
  },
  'role-has-its-states': {
    wrong: [
      '<div role="checkbox" tabindex="0">A</div>',
      '<div role="slider" tabindex="0" aria-label="a"></div>',
      '<div role="combobox" tabindex="0" aria-label="a"></div>',
      '<div role="heading">A</div>',
    ],
    right: [
      '<div role="checkbox" tabindex="0" aria-checked="mixed">A</div>',
      '<label><input type="checkbox" role="switch"> A</label>',
      '<div role="heading" aria-level="3">A</div>',
    ],
  },
  'attribute-exists': { wrong: ['<div aria-labeled="a">A</div>'], right: ['<div aria-live="polite">A</div>'] },
  'attribute-has-a-value': {
    wrong: [
      '<button aria-expanded="yes">A</button>',
      '<div aria-live="loud">A</div>',
      '<div role="slider" tabindex="0" aria-label="a" aria-valuenow="much"></div>',
    ],
    right: ['<button aria-expanded="true">A</button>', '<button aria-expanded="">A</button>'],
  },
  'attribute-fits-role': {
    wrong: ['<a href="#a" aria-checked="true">A</a>', '<div aria-expanded="true">A</div>'],
    right: ['<button aria-pressed="true">A</button>', '<div aria-busy="true">A</div>'],
  },
  'nameless-has-no-name': {
    wrong: ['<div aria-label="Tides">A</div>', '<p role="presentation" aria-label="a">A</p>'],
    right: ['<div role="group" aria-label="Tides">A</div>', '<div tabindex="0" aria-label="Tides">A</div>'],
  },
  'reference-leads-somewhere': {
    wrong: [
      '<button aria-labelledby="nowhere">A</button>',
      '<input aria-label="a" aria-describedby="gone">',
      '<button aria-expanded="true" aria-controls="gone">More</button>',
    ],
    right: [
      '<b id="x">Go</b><button aria-labelledby="x"></button>',
      '<button aria-haspopup="menu" aria-expanded="false" aria-controls="later">More</button>',
      '<button aria-haspopup="menu" aria-owns="later">More</button>',
    ],
  },
  'children-are-there': {
    wrong: [
      '<div role="list"><p>A</p><button>B</button></div>',
      '<div role="tablist"><button>A</button></div>',
      '<div role="listbox" aria-label="a"><div role="option" tabindex="0">A</div><label>' +
        '<input type="checkbox">B</label></div>',
    ],
    right: [
      '<div role="menu" aria-label="a"><div role="menuitem" tabindex="0">A</div><div role="separator"></div></div>',
      '<div role="list"><div role="listitem">A</div></div>',
      '<div role="table"><div role="rowgroup"><div role="row"><div role="cell">A</div></div></div></div>',
      '<div role="list"></div>',
    ],
  },
  'parent-is-there': {
    wrong: ['<div role="listitem">A</div>', '<div role="tab" tabindex="0">A</div>', '<div role="option">A</div>'],
    right: [
      '<div role="listbox" aria-label="a" tabindex="0"><div role="option">A</div></div>',
      '<div role="tablist" aria-owns="own"></div><div id="own" role="tab" tabindex="0">A</div>',
    ],
  },
  'hidden-is-not-focusable': {
    wrong: ['<div aria-hidden="true"><button>A</button></div>'],
    right: [
      '<div aria-hidden="true"><button tabindex="-1">A</button></div>',
      '<div aria-hidden="true"><button disabled>A</button></div>',
      '<span aria-hidden="true" tabindex="0" style="opacity:0"></span>',
    ],
  },
  'presentation-is-inert': { wrong: ['<div role="none" tabindex="0">A</div>'], right: ['<div role="none">A</div>'] },
  'controls-are-not-nested': {
    wrong: ['<button>A <a href="#a">B</a></button>', '<a href="#a">A <input aria-label="b"></a>'],
    right: ['<label>A <input></label>', '<div role="group"><button>A</button></div>'],
  },
  'id-is-unique': {
    wrong: ['<label for="d">A</label><input id="d"><input id="d" aria-label="b">'],
    right: ['<p id="e">A</p><p id="e">B</p>', '<label for="d">A</label><input id="d">'],
  },
  'label-leads-somewhere': {
    wrong: ['<label for="nothing">A</label>', '<label>A</label>'],
    right: [
      '<label for="g">A</label><input id="g">',
      '<label id="h">A</label><div role="textbox" tabindex="0" aria-labelledby="h"></div>',
    ],
  },
  'accesskey-is-unique': {
    wrong: ['<button accesskey="s">A</button><button accesskey="S">B</button>'],
    right: ['<button accesskey="s">A</button><button accesskey="t">B</button>'],
  },
  'list-holds-items': {
    wrong: ['<ul><div>A</div></ul>'],
    right: ['<ul><li>A</li></ul>', '<ul role="tablist"><div role="tab" tabindex="0">A</div></ul>'],
  },
  'item-is-in-list': { wrong: ['<div><li>A</li></div>'], right: ['<ol><li>A</li></ol>'] },
  'terms-are-in-order': {
    wrong: ['<dl><p>A</p></dl>', '<div><dt>A</dt></div>'],
    right: ['<dl><div><dt>A</dt><dd>B</dd></div></dl>'],
  },
  'heading-levels-follow': { wrong: ['<h2>A</h2><h4>B</h4>'], right: ['<h3>A</h3><h4>B</h4><h2>C</h2>'] },
  'header-has-text': {
    wrong: ['<table><tr><th scope="col"></th><th scope="col">B</th></tr><tr><td>1</td><td>2</td></tr></table>'],
    right: ['<table><tr><th scope="col">A</th></tr><tr><td>1</td></tr></table>'],
  },
  'table-has-headers': {
    wrong: ['<table><tr><td>A</td><td>B</td></tr><tr><td>1</td><td>2</td></tr></table>'],
    right: ['<table role="presentation"><tr><td>A</td><td>B</td></tr><tr><td>1</td><td>2</td></tr></table>'],
  },
  'headers-lead-somewhere': {
    wrong: ['<table><tr><th id="h">A</th></tr><tr><td headers="k">1</td></tr></table>'],
    right: ['<table><tr><th id="h">A</th></tr><tr><td headers="h">1</td></tr></table>'],
  },
  'scope-is-on-headers': {
    wrong: ['<table><tr><td scope="col">A</td></tr></table>', '<table><tr><th scope="down">A</th></tr></table>'],
    right: ['<table><tr><th scope="col">A</th></tr></table>'],
  },
  'landmarks-are-told-apart': {
    wrong: ['<nav>A</nav><nav>B</nav>'],
    right: ['<nav aria-label="Main">A</nav><nav aria-label="Pages">B</nav>', '<nav>A</nav>'],
  },
  'one-main': { wrong: ['<main>A</main><main>B</main>'], right: ['<main>A</main>'] },
  'language-exists': {
    wrong: ['<p lang="xx-klingon">A</p>', '<p lang="english">A</p>'],
    right: ['<p lang="it-CH">A</p>', '<p lang="">A</p>'],
  },
  'autocomplete-is-known': {
    wrong: ['<label>A <input autocomplete="e-mail"></label>'],
    right: [
      '<label>A <input autocomplete="section-x shipping postal-code"></label>',
      '<label>A <input autocomplete="off"></label>',
    ],
  },
  'video-has-captions': {
    wrong: ['<video controls></video>'],
    right: [
      '<video controls muted></video>',
      '<video controls><track kind="captions" src="data:text/vtt,WEBVTT"></video>',
    ],
  },
  'nothing-plays-by-itself': {
    wrong: ['<audio autoplay></audio>'],
    right: ['<audio autoplay controls></audio>', '<video autoplay muted></video>'],
  },
  'nothing-blinks': { wrong: ['<marquee>A</marquee>'], right: ['<p>A</p>'] },
  'motion-can-be-less': {
    wrong: ['<style>@keyframes go{to{margin-left:9px}}#still{animation:go 1s infinite}</style><p id="still">A</p>'],
    right: [
      '<style>@keyframes go{to{margin-left:9px}}@media (prefers-reduced-motion: ' +
        'no-preference){#still{animation:go 1s infinite}}</style><p id="still">A</p>',
    ],
  },
  'error-is-told': {
    wrong: ['<label>A <input aria-invalid="true"></label>'],
    right: ['<label>A <input aria-invalid="true" aria-describedby="w"></label><p id="w">Too deep</p>'],
  },
  'tab-order-is-natural': {
    wrong: ['<button tabindex="3">A</button>'],
    right: ['<button tabindex="0">A</button><p tabindex="-1">B</p>'],
  },
  'widget-can-have-focus': {
    wrong: ['<div role="button">A</div>', '<span role="checkbox" aria-checked="true">A</span>'],
    right: [
      '<div role="button" tabindex="0">A</div>',
      '<div role="button" aria-disabled="true">A</div>',
      '<div role="menu" aria-label="a"><div role="menuitem">A</div></div>',
    ],
  },
  'click-is-not-all': {
    wrong: [
      '<div style="cursor:pointer">Release berth</div>',
      '<span onclick="release()">Release berth</span>',
      '<ul><li style="cursor:pointer"><b>C-14</b></li></ul>',
    ],
    right: [
      '<button style="cursor:pointer"><span>Release berth</span></button>',
      '<label style="cursor:pointer"><input type="checkbox">Crane</label>',
      '<div style="cursor:pointer" role="button" tabindex="0">Release berth</div>',
      '<table><tr style="cursor:pointer"><td><a href="#a">C-14</a></td></tr></table>',
      '<div style="cursor:pointer" aria-hidden="true">×</div><p>A</p>',
    ],
  },
  'link-has-address': { wrong: ['<a tabindex="0">A</a>'], right: ['<a href="#a">A</a>', '<a>A</a>'] },
  'target-is-large': {
    wrong: [`<button ${tiny}>A</button><button ${tiny}>B</button>`],
    right: [
      '<button style="width:30px;height:30px">A</button><button style="width:30px;height:30px">B</button>',
      `<button ${tiny}>A</button>`,
      '<p>Read <a href="#a">this</a> and <a href="#b">that</a>.</p>',
      '<button style="width:30px;height:30px">A</button><input aria-label="B" ' +
        'style="position:absolute;width:1px;height:1px;clip:rect(0 0 0 0)">',
    ],
  },
  'focus-is-not-lost': {
    wrong: ['<button onclick="this.remove()">Go</button>'],
    right: [
      '<button onclick="this.textContent = 1">Go</button>',
      '<button onclick="this.nextSibling.focus(); this.remove()">Go</button><button>B</button>',
    ],
  },
  'text-has-contrast': {
    wrong: [
      '<p style="color:#999">Pale words on white</p>',
      '<style>::placeholder{color:#bbb}</style><label>Name<input placeholder="Aliseo"></label>',
      '<style>::placeholder{opacity:.3}</style><label>Notes<textarea placeholder="Nothing so far"></textarea></label>',
      '<p style="background:linear-gradient(90deg,#000,#555);color:#444">Dark words on dark</p>',
      '<p style="opacity:.4">Words behind a veil</p>',
      '<p style="color:rgb(0 0 0 / 40%)">Words seen through</p>',
      '<p style="color:oklch(0.72 0 0)">Pale words in another notation</p>',
      '<p style="color:color-mix(in oklab, black 30%, white)">Pale words of two colours</p>',
      '<p style="color:hsl(from navy h s 80% / 90%)">Pale words of another colour</p>',
      '<div style="position:relative"><p>Words below a veil</p>' +
        '<div style="position:absolute;inset:0;background:rgb(255 255 255 / 70%);pointer-events:none"></div></div>',
      '<p style="-webkit-text-fill-color:#999">Pale words, whatever colour they have</p>',
      drawing('<text y="20" fill="#999">Pale words in a drawing</text>'),
      drawing('<text y="20" fill-opacity=".3">Words of a drawing seen through</text>'),
      drawing('<text y="60" font-size="40" fill="#8a8a8a">Smaller than drawn</text>', '0 0 400 80'),
      drawing('<rect width="200" height="40" fill="#666" /><text y="20" pointer-events="none">On a bar</text>'),
      drawing('<text y="20"><tspan>Dark and</tspan> <tspan style="fill:#aaa">pale words</tspan></text>'),
    ],
    right: [
      '<p>Dark words on white</p>',
      '<div ' +
        'style="display:flex;width:300px;height:40px">' +
        '<p style="width:120px;overflow:hidden;white-space:nowrap;margin:0;color:#5d616c">Words_that_go_on_bel</p>' +
        '<div style="flex:1;background:linear-gradient(#ccc 0 3px,#2d6e4a 3px)"></div></div>',
      '<div style="overflow:hidden;width:60px;height:30px"><p ' +
        'style="position:absolute;left:90px;top:50px">Outside of what cuts off</p></div>',
      '<style>::placeholder{color:#bbb}</style><label>Name<input placeholder="Aliseo" value="Bora"></label>',
      '<style>::placeholder{color:#666}input{text-align:right;width:300px}</style>' +
        '<label>Name<input placeholder="Aliseo"></label>',
      '<p style="color:#767676">Just enough</p>',
      '<p style="color:oklch(0.5 0 0)">Just enough in another notation</p>',
      '<p style="background:#000;color:color(srgb 1.3 1.3 1.3)">Whiter than white, on black</p>',
      '<p style="color:#999;font-size:28px">Large</p>'.replace('#999', '#8a8a8a'),
      '<button disabled>Off</button>',
      '<p style="background:linear-gradient(90deg,#000,#333);color:#fff">White words on dark</p>',
      '<p style="position:absolute;width:1px;height:1px;overflow:hidden;clip:rect(0,0,0,0);color:#fff">Read out ' +
        'only</p><p>A</p>',
      '<p style="visibility:hidden;color:#eee">Not there</p><p>A</p>',
      drawing('<text y="20" style="color:#fff">Dark words in a drawing</text>'),
      drawing('<text y="15" font-size="14" fill="#8a8a8a">Larger</text>', '0 0 100 20'),
      drawing('<rect width="200" height="40" fill="navy" /><text y="20" fill="#fff">On a bar</text>'),
      drawing('<text y="20" fill="#eee">Below a bar</text><rect width="200" height="40" fill="navy" />'),
      drawing('<defs><mask id="m"><text y="20" fill="#fff">A mask</text></mask></defs><text y="20">Read</text>'),
      drawing('<text y="20" fill="none">Nothing of it is painted</text>'),
    ],
  },
  'text-can-be-spaced': {
    wrong: ['<div style="width:120px;height:20px;overflow:hidden;line-height:20px">Two words more here</div>'],
    right: [
      '<div style="width:120px;overflow:hidden">Two words more here</div>',
      '<div style="height:30px;overflow:auto">A<br>B<br>C</div>',
    ],
  },
  'text-can-be-larger': {
    wrong: [
      '<div style="height:1.4em;font-size:1rem;overflow:hidden">' +
        '<div style="font-size:1rem;max-height:20px;overflow:hidden">Words</div></div>',
    ],
    right: ['<div style="min-height:20px;overflow:hidden">Words</div>'],
  },
  'links-are-more-than-colour': {
    wrong: ['<p>Read <a href="#a" style="text-decoration:none">this</a> now.</p>'],
    right: ['<p>Read <a href="#a">this</a> now.</p>', '<p><a href="#a" style="text-decoration:none">this</a></p>'],
  },
  'focus-is-visible': {
    wrong: [
      '<button style="outline:none">Go</button>',
      '<a href="#a" style="outline:0">Tides</a>',
      // Rings that nobody sees: there all the time, as the ground, cut off, covered, seen through.
      '<style>.t{outline:3px solid navy}</style><button class="t">Go</button>',
      '<style>.t:focus-visible{outline:3px solid white}</style><button class="t">Go</button>',
      '<style>.t:focus-visible{outline:none;box-shadow:0 0 0 3px #fff}</style><button class="t">Go</button>',
      '<style>.t:focus-visible{outline:3px solid navy}</style>' +
        '<div style="overflow:hidden;width:80px;height:30px"><button class="t" ' +
        'style="width:80px;height:30px;border:0">Go</button></div>',
      '<style>.t:focus-visible{outline:3px solid navy}</style><div style="background:navy;padding:20px">' +
        '<button class="t" style="background:navy;border:0;color:white">Go</button></div>',
      '<style>.t:focus-visible{outline:3px solid navy}</style><div style="position:relative;padding:20px">' +
        '<button class="t">Go</button><div style="position:absolute;inset:0;background:#eee">Over it</div></div>',
      '<style>.t:focus-visible{outline:3px solid #0000}</style><button class="t">Go</button>',
      '<style>.t:focus-visible{outline:3px solid navy}</style>' +
        '<div style="width:80px;height:30px;clip-path:inset(0)">' +
        '<button class="t" style="width:80px;height:30px;border:0">Go</button></div>',
    ],
    right: [
      '<button>Go</button>',
      '<style>.t:focus-visible{outline:3px solid white}</style><div style="background:navy;padding:20px">' +
        '<button class="t">Go</button></div>',
      '<style>.t:focus-visible{outline:none;box-shadow:0 0 0 2px #fff,0 0 0 4px navy}</style>' +
        '<button class="t">Go</button>',
      '<style>.t:focus-visible{outline:2px solid navy;outline-offset:-2px}</style><button class="t">Go</button>',
      '<style>.t:focus-visible{outline:3px solid #00f8;outline-offset:-3px}</style>' +
        '<div style="overflow:hidden;width:80px;height:30px"><input class="t" aria-label="Berth" ' +
        'style="width:80px;height:30px;border:0;box-sizing:border-box"></div>',
      `<button style="outline:none" onfocus="this.style.background='navy'" ` +
        `onblur="this.style.background=''">Go</button>`,
      '<style>.t{outline:none;transition:box-shadow .3s}.t:focus-visible{box-shadow:0 0 0 3px navy}</style>' +
        '<button class="t">Go</button>',
      '<div style="overflow:auto;height:60px"><p style="height:200px">Far below</p><button>Go</button></div>',
      '<style>@keyframes come{from{opacity:0}to{opacity:1}}</style>' +
        `<button style="outline:none" onfocus="this.insertAdjacentHTML('beforeend','` +
        `<b style=&quot;animation:come .5s&quot;>!</b>')" onblur="this.lastChild.remove()">Go</button>`,
      `<button style="outline:none" onfocus="setTimeout(()=>{this.style.background='navy'},300)" ` +
        `onblur="setTimeout(()=>{this.style.background=''},300)">Go</button>`,
      '<style>form:focus-within{border-left:9px solid navy}</style><form style="padding:40px">' +
        '<button style="outline:none">Go</button></form>',
    ],
  },
  'tab-leads-on': {
    wrong: [`<button>One</button><button onkeydown="if(event.key==='Tab')event.preventDefault()">Two</button>`],
    right: [
      '<button>One</button><button>Two</button>',
      `<textarea aria-label="Code" onkeydown="if(event.key==='Tab'&&!event.shiftKey)event.preventDefault()">` +
        '</textarea><button>One</button>',
    ],
  },
  'tab-reaches-all': {
    wrong: ['<button>One</button><button onfocus="this.blur()">Two</button><button>Three</button>'],
    right: [
      '<button>One</button><button>Two</button>',
      '<label><input type="radio" name="a" checked> A</label> <label><input type="radio" name="a"> B</label>',
      '<button hidden>One</button><button disabled>Two</button><button>Three</button>',
      '<div role="toolbar" aria-label="Tools"><button>One</button><button tabindex="-1">Two</button></div>',
      '<ul tabindex="0" onfocus="this.querySelector(\'a\').focus()"><li><a href="#a">One</a></li></ul>' +
        '<button>Two</button>',
    ],
  },
  'tab-follows-page': {
    wrong: [
      '<style>button{height:40px}</style><div style="display:flex;flex-direction:column-reverse">' +
        '<button>Under</button><button>Over</button></div>',
      '<div style="display:flex;flex-direction:row-reverse"><button>Right</button><button>Left</button></div>',
      '<div style="display:grid;grid-template-columns:90px 90px"><p style="order:2"><button>Right</button></p>' +
        '<button style="order:1">Left</button></div>',
      '<div dir="rtl" style="display:flex;flex-direction:row-reverse">' +
        '<button>Left</button><button>Right</button></div>',
    ],
    right: [
      '<div dir="rtl" style="display:flex"><button>Right</button><button>Left</button></div>',
      '<div style="display:flex"><button style="margin-left:90px">A</button>' +
        '<button style="margin-left:-180px">B</button></div>',
      '<style>button{height:40px;width:40px;margin:9px}</style><button>A</button><br><button>B</button>',
      '<style>button{height:40px}</style><div style="position:relative"><button>A</button>' +
        '<input aria-label="B" style="position:absolute;left:0;top:-9px;width:1px;height:1px;clip:rect(0 0 0 0)">' +
        '</div>',
      '<style>button{height:40px;width:40px;margin:9px}</style><div style="columns:2"><button>A</button><br>' +
        '<button>B</button></div>',
    ],
  },
};

/** Looks by the names of their fixtures; those of the focus press what they find. */
const states = Object.entries(fixtures).flatMap(([rule, { wrong, right }]) => [
  ...wrong.map((html, i) => ({ name: `${rule} wrong ${i}`, html, rule })),
  ...right.map((html, i) => ({ name: `${rule} right ${i}`, html, rule })),
]);

const lookFile = `import { looks, the, click } from 'sguardo';
function Markup({ html }: { html: string }) {
  return <div dangerouslySetInnerHTML={{ __html: html }} />;
}
export default looks(Markup, { states: {
${states
  .map(({ name, html, rule }) => {
    const media = rule === 'motion-can-be-less' ? ", media: { motion: 'reduce' }" : '';
    const script = rule === 'focus-is-not-lost' ? ", script: async () => { await click(the.button('Go')); }" : '';
    return `  ${JSON.stringify(name)}: { props: { html: ${JSON.stringify(html)} }${media}${script} },`;
  })
  .join('\n')}
} });
`;

let findings: ListedFinding[];

beforeAll(async () => {
  const root = project({ 'sguardo.config.ts': configuration({ lanes: 4 }), 'src/Markup.look.tsx': lookFile });
  const { run, client } = await serve(root);
  const { results } = await run();
  const broken = results.filter(({ verdict }) => verdict === 'broken' || verdict === 'failed');
  expect(broken.map(({ look, problem }) => `${look}: ${problem?.message}`)).toEqual([]);
  ({ findings } = await client.accessibility());
});

const shows = (rule: string, name: string): boolean =>
  findings.some((one) => one.rule === rule && one.sightings.some(({ look }) => look === name));

test('there are at least 45 rules, each with all that there is to say of it', () => {
  expect(Object.keys(rules).length).toBeGreaterThanOrEqual(45);
  for (const rule of Object.values(rules))
    for (const text of [rule.title, rule.why, rule.fix]) expect(text.length).toBeGreaterThan(10);
});

describe.each(Object.keys(fixtures) as RuleId[])('%s', (rule) => {
  test('is found where it is broken', () => {
    const missed = fixtures[rule].wrong.filter((_, i) => !shows(rule, `${rule} wrong ${i}`));
    expect(missed).toEqual([]);
  });

  test('is not found where it is kept', () => {
    const invented = fixtures[rule].right.filter((_, i) => shows(rule, `${rule} right ${i}`));
    expect(invented).toEqual([]);
  });
});

test('markup that is right breaks no other rule for certain', () => {
  const others = findings
    .filter(({ certain }) => certain)
    .flatMap(({ rule, sightings, element }) =>
      sightings
        .filter(({ look }) => / right \d+$/.test(look) && !look.startsWith(rule))
        .map(({ look }) => `${look}: ${rule}, ${element}`),
    );
  expect(others).toEqual([]);
});
