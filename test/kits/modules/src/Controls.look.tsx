import {
  Accordion,
  Button,
  Checkbox,
  Chip,
  Collapse,
  Combobox,
  FileInput,
  MultiSelect,
  NumberInput,
  Pagination,
  PasswordInput,
  Progress,
  Rating,
  SegmentedControl,
  Select,
  Skeleton,
  Slider,
  Stepper,
  Switch,
  Tabs,
  TextInput,
} from '@mantine/core';
import { Calendar, DatePickerInput } from '@mantine/dates';
import { useDisclosure } from '@mantine/hooks';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { click, ensure, looks, press, the, type } from 'sguardo';

function Boxes() {
  return (
    <>
      <Checkbox label="Shore power" />
      <Switch label="Night lights" />
      <Chip>Sheltered</Chip>
      <Rating defaultValue={2} />
      <SegmentedControl data={['Inner', 'Outer']} />
    </>
  );
}
function Wind() {
  return <Select label="Wind" data={['North', 'South', 'West']} defaultValue="North" />;
}
function Ships() {
  return <MultiSelect label="Ships" data={['Alba', 'Borea', 'Cetus']} searchable />;
}
function Arrival() {
  return <DatePickerInput label="Arrival" defaultValue="2026-03-02" />;
}
function Month() {
  return <Calendar defaultDate="2026-03-02" />;
}
function Folded() {
  return (
    <Accordion>
      <Accordion.Item value="rules">
        <Accordion.Control>Rules</Accordion.Control>
        <Accordion.Panel>No open fire on the quay.</Accordion.Panel>
      </Accordion.Item>
    </Accordion>
  );
}
function Places() {
  return (
    <Tabs defaultValue="inner">
      <Tabs.List>
        <Tabs.Tab value="inner">Inner</Tabs.Tab>
        <Tabs.Tab value="outer">Outer</Tabs.Tab>
      </Tabs.List>
      <Tabs.Panel value="inner">Sheltered</Tabs.Panel>
      <Tabs.Panel value="outer">Open to the west</Tabs.Panel>
    </Tabs>
  );
}
function Steps() {
  const [at, go] = useState(0);
  return (
    <>
      <Stepper active={at}>
        <Stepper.Step label="Ship" />
        <Stepper.Step label="Berth" />
      </Stepper>
      <Button onClick={() => go(at + 1)}>Next</Button>
    </>
  );
}
function Draught() {
  return <Slider defaultValue={30} thumbLabel="Draught" />;
}
function Fold() {
  const [open, { toggle }] = useDisclosure(false);
  return (
    <>
      <Button onClick={toggle}>Details</Button>
      <Collapse expanded={open}>Length 31 m, draught 3 m</Collapse>
    </>
  );
}
function Fields() {
  return (
    <>
      <NumberInput label="Depth" defaultValue={3} />
      <PasswordInput label="Code" />
      <FileInput label="Papers" placeholder="Choose" />
      <Pagination total={9} />
      <Progress value={40} animated />
      <Skeleton height={20} />
    </>
  );
}
function Form() {
  const { register, handleSubmit, formState } = useForm<{ ship: string }>();
  const isFree = async (ship: string): Promise<true | string> => {
    await new Promise((go) => setTimeout(go, 600));
    return ship !== 'Alba' || 'Alba is here already';
  };
  return (
    <form onSubmit={handleSubmit(() => {})}>
      <TextInput label="Ship" error={formState.errors.ship?.message} {...register('ship', { validate: isFree })} />
      <Button type="submit" loading={formState.isSubmitting}>
        Check
      </Button>
    </form>
  );
}
const all = { Boxes, Wind, Ships, Arrival, Month, Folded, Places, Steps, Draught, Fold, Fields, Form };
function Control({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}
void Combobox;

export default looks(Control, {
  props: { what: 'Boxes' },
  states: {
    boxes: {},
    'box ticked': { script: () => click(the.checkbox('Shore power')) },
    'switch on': { script: () => click(the.switch('Night lights')) },
    'segment changed': { script: () => click(the.radio('Outer')) },
    'select open': { props: { what: 'Wind' }, script: () => click(the.css('input:not([type=hidden])').nth(0)) },
    'select chosen': { after: 'select open', script: () => click(the.option('South')) },
    'several chosen': {
      props: { what: 'Ships' },
      async script() {
        await type(the.css('input:not([type=hidden])').nth(0), 'bo');
        await click(the.option('Borea'));
      },
    },
    'date picker open': { props: { what: 'Arrival' }, script: () => click(the.button(/Arrival|March/)) },
    calendar: { props: { what: 'Month' } },
    'accordion open': { props: { what: 'Folded' }, script: () => click(the.button('Rules')) },
    'tab changed': { props: { what: 'Places' }, script: () => click(the.tab('Outer')) },
    'second step': { props: { what: 'Steps' }, script: () => click(the.button('Next')) },
    'slider moved': { props: { what: 'Draught' }, script: () => press(the.slider('Draught'), 'ArrowRight') },
    'collapse open': { props: { what: 'Fold' }, script: () => click(the.button('Details')) },
    fields: { props: { what: 'Fields' } },
    'form refused': {
      props: { what: 'Form' },
      async script() {
        await type(the.field('Ship'), 'Alba');
        await click(the.button('Check'));
        await ensure(the.text('Alba is here already')).isVisible();
      },
    },
  },
});
