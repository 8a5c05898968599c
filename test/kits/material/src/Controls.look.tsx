import {
  Accordion,
  AccordionDetails,
  AccordionSummary,
  Autocomplete,
  Button,
  Checkbox,
  FormControlLabel,
  MenuItem,
  Rating,
  Select,
  Slider,
  Step,
  StepLabel,
  Stepper,
  Switch,
  Tab,
  Tabs,
  TextField,
} from '@mui/material';
import { DatePicker } from '@mui/x-date-pickers';
import dayjs from 'dayjs';
import { useState } from 'react';
import { click, ensure, looks, press, the, type } from 'sguardo';

function Boxes() {
  return (
    <>
      <FormControlLabel control={<Checkbox />} label="Shore power" />
      <FormControlLabel control={<Switch />} label="Night lights" />
      <Rating name="shelter" defaultValue={2} />
    </>
  );
}
function Wind() {
  return (
    <Select defaultValue="N" inputProps={{ 'aria-label': 'Wind' }}>
      <MenuItem value="N">North</MenuItem>
      <MenuItem value="S">South</MenuItem>
    </Select>
  );
}
function Ship() {
  return (
    <Autocomplete
      options={['Alba', 'Alcyone', 'Borea']}
      renderInput={(given) => <TextField {...given} label="Ship" />}
    />
  );
}
function Arrival() {
  return <DatePicker label="Arrival" defaultValue={dayjs('2026-03-02')} />;
}
function Folded() {
  return (
    <Accordion>
      <AccordionSummary>Rules</AccordionSummary>
      <AccordionDetails>No open fire on the quay.</AccordionDetails>
    </Accordion>
  );
}
function Places() {
  const [tab, setTab] = useState(0);
  return (
    <>
      <Tabs value={tab} onChange={(_, next: number) => setTab(next)}>
        <Tab label="Inner" />
        <Tab label="Outer" />
      </Tabs>
      <p>{tab === 0 ? 'Sheltered' : 'Open to the west'}</p>
    </>
  );
}
function Steps() {
  const [at, go] = useState(0);
  return (
    <>
      <Stepper activeStep={at}>
        {['Ship', 'Berth', 'Fee'].map((label) => (
          <Step key={label}>
            <StepLabel>{label}</StepLabel>
          </Step>
        ))}
      </Stepper>
      <Button onClick={() => go(at + 1)}>Next</Button>
    </>
  );
}
function Draught() {
  return <Slider defaultValue={30} aria-label="Draught" />;
}
function Form() {
  const [error, setError] = useState('');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        setTimeout(() => setError('No berth is that deep'), 400);
      }}
    >
      <TextField label="Depth" error={error !== ''} helperText={error || ' '} />
      <Button type="submit">Check</Button>
    </form>
  );
}
const all = { Boxes, Wind, Ship, Arrival, Folded, Places, Steps, Draught, Form };
function Control({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Control, {
  props: { what: 'Boxes' },
  states: {
    boxes: {},
    'box ticked': { script: () => click(the.checkbox('Shore power')) },
    'switch on': { script: () => click(the.switch('Night lights')) },
    'rating given': { script: () => click(the.radio('4 Stars')) },
    'select open': { props: { what: 'Wind' }, script: () => click(the.combobox()) },
    'select chosen': {
      after: 'select open',
      async script() {
        await click(the.option('South'));
        await ensure(the.listbox()).isAbsent();
      },
    },
    'autocomplete typed': { props: { what: 'Ship' }, script: () => type(the.field('Ship'), 'al') },
    'autocomplete chosen': { after: 'autocomplete typed', script: () => click(the.option('Alcyone')) },
    'date picker': { props: { what: 'Arrival' } },
    'date picker open': { after: 'date picker', script: () => click(the.button(/Choose date/)) },
    'accordion open': { props: { what: 'Folded' }, script: () => click(the.button('Rules')) },
    'tab changed': { props: { what: 'Places' }, script: () => click(the.tab('Outer')) },
    'second step': { props: { what: 'Steps' }, script: () => click(the.button('Next')) },
    'slider moved': { props: { what: 'Draught' }, script: () => press(the.slider('Draught'), 'ArrowRight') },
    'form refused': {
      props: { what: 'Form' },
      async script() {
        await type(the.field('Depth'), '40');
        await click(the.button('Check'));
        await ensure(the.text('No berth is that deep')).isVisible();
      },
    },
  },
});
