import { ensure, looks, the } from 'sguardo/react';
import { Prose } from './Prose.tsx';

const everything = `# Berths &amp; tides

Who lies **where**, _for how long_ and ~~at whose cost~~, \`a &amp; b\`.
A second line, and one after a break  
with a link to [the tides](https://tides.test/ "Tides"), one to [a file](./Fees.md), and https://port.test by itself.

## In order

3. Ask the pilot
4. Wait for *high* water
   - at the quay
   - at anchor

### To do

- [x] Painted
- [ ] Numbered

> The harbour master decides.

| Berth | Depth |
| :---- | ----: |
| A-1   |  4.20 |
| A-2   | 12.00 |

\`\`\`ts
const berth = <Berth name="A-1" />;
\`\`\`

---

![A quay](https://elsewhere.test/quay.png)
`;

const hostile = `<img src="https://elsewhere.test/x.png" onerror="alert(1)"> and <script>alert(2)</script>

<iframe src="https://elsewhere.test/"></iframe>

[run](javascript:alert(3)), [data](data:text/html,hello), \\*as written\\*, 1 < 2 && 3 > 2, &lt;b&gt;`;

export default looks(Prose, {
  environments: ['day', 'night'],
  props: { text: everything, file: 'src/Berth.md' },
  states: {
    everything: {
      async script() {
        await ensure(the.heading('Berths & tides')).isVisible();
        await ensure(the.link('the tides')).hasAttribute('href', 'https://tides.test/');
        await ensure(the.link()).counts(2);
        await ensure(the.cell('12.00')).isVisible();
        await ensure(the.text('[picture: A quay]')).isVisible();
      },
    },
    'HTML is text, and no link runs anything': {
      props: { text: hostile },
      async script() {
        await ensure(the.link()).isAbsent();
        await ensure(the.css('img, script, iframe')).isAbsent();
        await ensure(the.text(/<script>alert\(2\)<\/script>/)).isVisible();
        await ensure(the.text(/1 < 2 && 3 > 2, <b>/)).isVisible();
      },
    },
  },
});
