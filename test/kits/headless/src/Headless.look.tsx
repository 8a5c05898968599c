import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
  DialogTitle,
  Disclosure,
  DisclosureButton,
  DisclosurePanel,
  Listbox,
  ListboxButton,
  ListboxOption,
  ListboxOptions,
  Menu,
  MenuButton,
  MenuItem,
  MenuItems,
  Popover,
  PopoverButton,
  PopoverPanel,
  Switch,
  Tab,
  TabGroup,
  TabList,
  TabPanel,
  TabPanels,
  Transition,
} from '@headlessui/react';
import { useState } from 'react';
import { capture, click, clock, ensure, looks, press, the, type } from 'sguardo';

function Question() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        Release berth
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} transition className="fade">
        <DialogPanel className="panel">
          <DialogTitle>Release berth 7?</DialogTitle>
          <button type="button" onClick={() => setOpen(false)}>
            Keep it
          </button>
        </DialogPanel>
      </Dialog>
    </>
  );
}
function More() {
  return (
    <Menu>
      <MenuButton>More</MenuButton>
      <MenuItems anchor="bottom" transition className="list fade">
        <MenuItem>
          <button type="button">Move</button>
        </MenuItem>
        <MenuItem>
          <button type="button">Bill</button>
        </MenuItem>
      </MenuItems>
    </Menu>
  );
}
function Wind() {
  const [wind, setWind] = useState('North');
  return (
    <Listbox value={wind} onChange={setWind}>
      <ListboxButton>{wind}</ListboxButton>
      <ListboxOptions anchor="bottom" className="list">
        {['North', 'South', 'West'].map((one) => (
          <ListboxOption key={one} value={one}>
            {one}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
function Ship() {
  const [ship, setShip] = useState<string | null>(null);
  const [query, setQuery] = useState('');
  const found = ['Alba', 'Alcyone', 'Borea'].filter((name) => name.toLowerCase().includes(query.toLowerCase()));
  return (
    <Combobox value={ship} onChange={setShip}>
      <ComboboxInput aria-label="Ship" onChange={(event) => setQuery(event.target.value)} />
      <ComboboxOptions anchor="bottom" className="list">
        {found.map((one) => (
          <ComboboxOption key={one} value={one}>
            {one}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
}
function Lights() {
  const [on, setOn] = useState(false);
  return (
    <Switch checked={on} onChange={setOn} className="switch" aria-label="Night lights">
      <span />
    </Switch>
  );
}
function Rules() {
  return (
    <Disclosure>
      <DisclosureButton>Rules</DisclosureButton>
      <DisclosurePanel transition className="fade">
        No open fire on the quay.
      </DisclosurePanel>
    </Disclosure>
  );
}
function Fees() {
  return (
    <Popover>
      <PopoverButton>Fees</PopoverButton>
      <PopoverPanel anchor="bottom" transition className="list fade">
        84 a day
      </PopoverPanel>
    </Popover>
  );
}
function Places() {
  return (
    <TabGroup>
      <TabList>
        <Tab>Inner</Tab>
        <Tab>Outer</Tab>
      </TabList>
      <TabPanels>
        <TabPanel>Sheltered</TabPanel>
        <TabPanel>Open to the west</TabPanel>
      </TabPanels>
    </TabGroup>
  );
}
function Notice() {
  const [shown, setShown] = useState(true);
  return (
    <>
      <button type="button" onClick={() => setShown(!shown)}>
        Toggle
      </button>
      <Transition show={shown}>
        <p className="fade">Gale warning</p>
      </Transition>
    </>
  );
}
const all = { Question, More, Wind, Ship, Lights, Rules, Fees, Places, Notice };
function Headless({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Headless, {
  props: { what: 'Question' },
  states: {
    'dialog asked': { script: () => click(the.button('Release berth')) },
    'dialog on its way': {
      async script() {
        await click(the.button('Release berth'));
        await clock.advance(120);
        await capture('on its way', { settle: 0 });
      },
    },
    'dialog answered': {
      after: 'dialog asked',
      async script() {
        await click(the.button('Keep it'));
        await ensure(the.dialog()).isAbsent();
      },
    },
    'menu open': { props: { what: 'More' }, script: () => click(the.button('More')) },
    'menu by key': {
      after: 'menu open',
      async script() {
        await press('ArrowDown');
        await press('Enter');
        await ensure(the.menu()).isAbsent();
      },
    },
    'list open': { props: { what: 'Wind' }, script: () => click(the.button(/North/)) },
    'list chosen': { after: 'list open', script: () => click(the.option('West')) },
    'combobox typed': { props: { what: 'Ship' }, script: () => type(the.combobox(), 'al') },
    'combobox chosen': { after: 'combobox typed', script: () => click(the.option('Alcyone')) },
    'switch on': { props: { what: 'Lights' }, script: () => click(the.switch('Night lights')) },
    'disclosure open': { props: { what: 'Rules' }, script: () => click(the.button('Rules')) },
    'popover open': { props: { what: 'Fees' }, script: () => click(the.button('Fees')) },
    'tab changed': { props: { what: 'Places' }, script: () => click(the.tab('Outer')) },
    'notice leaves': {
      props: { what: 'Notice' },
      async script() {
        await click(the.button('Toggle'));
        await ensure(the.text('Gale warning')).isAbsent();
      },
    },
  },
});
