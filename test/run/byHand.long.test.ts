/** What a person does to a live look becomes lines, which do the same when they are run. */
import { beforeAll, describe, expect, it } from 'vitest';
import { doAll, type Done } from '../support/byHand.ts';
import { copyOf, project } from '../support/project.ts';

let done: Done[];
const linesOf = (look: string): string[] | undefined => done.find((one) => one.look === look)?.lines;

/** All scripts of all demo projects are done by: npm run bench -- doing */
const wanted = ['filled', 'escape closes', 'forgets the warning', 'enter confirms'];

beforeAll(async () => {
  done = await doAll(copyOf('demo/harbour'), wanted);
});

describe('the scripts of the demo, done by hand', () => {
  it('pass when the lines that came of them are run', () => {
    const acted = done.filter(({ verdict }) => verdict !== 'nothing');
    const missed = acted.filter(({ verdict }) => verdict !== 'new');
    expect(acted).toHaveLength(4);
    expect(missed.map(({ look, why }) => [look, why])).toEqual([]);
  });

  it('lead to the same picture', () => {
    const others = done.filter(({ isSame }) => !isSame).map(({ look }) => look);
    expect(others).toEqual([]);
  });

  it('are said as a person would say them', () => {
    expect(linesOf('src/ArrivalForm › filled')).toEqual([
      "await type(the.field('Vessel'), 'Tramontana');",
      "await type(the.field('Draught'), '1.8');",
      "await select(the.field('Purpose'), 'Shelter from weather');",
      "await click(the.checkbox('Dangerous goods on board'));",
    ]);
    expect(linesOf('src/BerthCard › escape closes the question')).toEqual([
      "await click(the.button('Release berth'));",
      "await press('Escape');",
    ]);
    expect(linesOf('src/DepthField › forgets the warning when corrected')).toEqual([
      "await clear(the.field('Draught'));",
      "await type(the.field('Draught'), '3.1');",
    ]);
    expect(linesOf('src/ReleaseDialog › enter confirms')).toEqual(["await press(the.button('Release'), 'Enter');"]);
  });
});

describe('what has neither role nor name', () => {
  it('is said by the text in it when that fills it, and else by what it is', async () => {
    const folder = project({
      'src/Picker.look.tsx': `import { useState } from 'react';
import { click, looks, the } from 'sguardo';
function Picker() {
  const [said, setSaid] = useState('nothing');
  const onBackdrop = ({ target, currentTarget }) => target === currentTarget && setSaid('backdrop');
  return <main><style>{'.row { width: 200px; padding: 8px } .row span { width: 40px; display: block }'}</style>
    <div className="list"><div className="row" onClick={() => setSaid('A-2')}><span>Berth A-2</span></div></div>
    <div className="back" style={{ height: 200 }} onClick={onBackdrop}><p>Sure?</p></div>
    <output>{said}</output></main>;
}
export default looks(Picker, { states: {
  row: { async script() { await click(the.css('.row'), { at: [190, 10] }); } },
  backdrop: { async script() { await click(the.css('.back'), { at: [100, 150] }); } },
} });`,
    });
    done = await doAll(folder, ['row', 'backdrop']);
    expect(linesOf('src/Picker › row')).toEqual(["await click(the.text('Berth A-2'));"]);
    expect(linesOf('src/Picker › backdrop')).toEqual([expect.stringMatching(/^await click\(the\.css\('div\.back'\)/)]);
    expect(done.map(({ verdict, isSame }) => [verdict, isSame])).toEqual([
      ['new', true],
      ['new', true],
    ]);
  });
});
