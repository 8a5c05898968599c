import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogTitle,
  Drawer,
  Menu,
  MenuItem,
  Popover,
  Snackbar,
  Tooltip,
} from '@mui/material';
import { useState } from 'react';
import { capture, clock, click, ensure, hover, looks, press, the } from 'sguardo';

function Question() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Release berth</Button>
      <Dialog open={open} onClose={() => setOpen(false)}>
        <DialogTitle>Release berth 7?</DialogTitle>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Keep it</Button>
          <Button onClick={() => setOpen(false)}>Release</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
function Side() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Arrivals</Button>
      <Drawer open={open} onClose={() => setOpen(false)}>
        <p>Three ships are expected.</p>
        <Button onClick={() => setOpen(false)}>Close</Button>
      </Drawer>
    </>
  );
}
function More() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button onClick={(event) => setAnchor(event.currentTarget)}>More</Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={() => setAnchor(null)}>Move</MenuItem>
        <MenuItem onClick={() => setAnchor(null)}>Bill</MenuItem>
      </Menu>
    </>
  );
}
function Hint() {
  return (
    <Tooltip title="High water at 14:20">
      <Button>Tide</Button>
    </Tooltip>
  );
}
function Saved() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Save</Button>
      <Snackbar open={open} autoHideDuration={3000} onClose={() => setOpen(false)}>
        <Alert severity="success">Berth saved</Alert>
      </Snackbar>
    </>
  );
}
function Fees() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button onClick={(event) => setAnchor(event.currentTarget)}>Fees</Button>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <p>84 a day</p>
      </Popover>
    </>
  );
}
const all = { Question, Side, More, Hint, Saved, Fees };
function Overlay({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Overlay, {
  props: { what: 'Question' },
  states: {
    'dialog asked': { script: () => click(the.button('Release berth')) },
    'dialog answered': {
      after: 'dialog asked',
      async script() {
        await click(the.button('Keep it'));
        await ensure(the.dialog()).isAbsent();
      },
    },
    'dialog left by key': { after: 'dialog asked', script: () => press('Escape') },
    'drawer open': { props: { what: 'Side' }, script: () => click(the.button('Arrivals')) },
    'drawer closed again': { after: 'drawer open', script: () => click(the.button('Close')) },
    'menu open': { props: { what: 'More' }, script: () => click(the.button('More')) },
    'menu chosen from': {
      after: 'menu open',
      async script() {
        await click(the.menuitem('Bill'));
        await ensure(the.menu()).isAbsent();
      },
    },
    'tooltip shown': {
      props: { what: 'Hint' },
      async script() {
        await hover(the.button(/Tide|High/));
        await ensure(the.tooltip()).isVisible();
      },
    },
    'toast there': {
      props: { what: 'Saved' },
      async script() {
        await click(the.button('Save'));
        await ensure(the.alert()).isVisible();
      },
    },
    'toast gone': {
      after: 'toast there',
      async script() {
        await clock.advance(4000);
        await ensure(the.alert()).isAbsent();
      },
    },
    'popover on its way': {
      props: { what: 'Fees' },
      async script() {
        await click(the.button('Fees'));
        await clock.advance(100);
        await capture('on its way', { settle: 0 });
      },
    },
  },
});
