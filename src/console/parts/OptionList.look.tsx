import type { ComponentProps } from 'react';
import { click, ensure, looks, scroll, spy, the } from 'sguardo/react';
import { OptionList } from './OptionList.tsx';

const berths = (count: number): string[] => Array.from({ length: count }, (_, i) => `Berth ${i + 1}`);

export default looks(OptionList<string>, {
  environments: ['day', 'night'],
  props: {
    label: 'Berths',
    entries: berths(3),
    at: 0,
    rowHeight: 32,
    keyOf: (entry) => entry,
    onChoose: spy(),
    shape: 'px-3',
    chosenShape: 'bg-wash',
    render: (entry) => <span>{entry}</span>,
    none: <p className="p-3 text-soft">No berths.</p>,
  },
  render: (props: ComponentProps<typeof OptionList<string>>) => (
    <div className="flex h-60 w-72 flex-col border border-rule bg-sheet">
      <OptionList {...props} />
    </div>
  ),
  states: {
    none: { props: { entries: [] } },
    one: { props: { entries: berths(1) } },
    three: {},
    'ten thousand, to the end': {
      props: { entries: berths(10_000) },
      async script({ props }) {
        await ensure(the.option('Berth 10000')).isAbsent();
        await scroll(the.listbox('Berths'), { to: 'bottom' });
        await click(the.option('Berth 10000'));
        await ensure(props.onChoose).wasCalledWith('Berth 10000');
      },
    },
  },
});
