import { Button, Drawer, HoverCard, LoadingOverlay, Menu, Modal, Popover, Tooltip } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import { capture, click, clock, ensure, hover, looks, press, the } from 'sguardo';

function Question() {
  const [opened, { open, close }] = useDisclosure(false);
  return (
    <>
      <Button onClick={open}>Release berth</Button>
      <Modal opened={opened} onClose={close} title="Release berth 7?">
        <Button onClick={close}>Keep it</Button>
      </Modal>
    </>
  );
}
function Side() {
  const [opened, { open, close }] = useDisclosure(false);
  return (
    <>
      <Button onClick={open}>Arrivals</Button>
      <Drawer opened={opened} onClose={close} title="Arrivals">
        Three ships are expected.
      </Drawer>
    </>
  );
}
function More() {
  return (
    <Menu>
      <Menu.Target>
        <Button>More</Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item>Move</Menu.Item>
        <Menu.Item>Bill</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
function Hint() {
  return (
    <Tooltip label="High water at 14:20" openDelay={500}>
      <Button>Tide</Button>
    </Tooltip>
  );
}
function Fees() {
  return (
    <Popover>
      <Popover.Target>
        <Button>Fees</Button>
      </Popover.Target>
      <Popover.Dropdown>84 a day</Popover.Dropdown>
    </Popover>
  );
}
function Card() {
  return (
    <HoverCard openDelay={300} closeDelay={300}>
      <HoverCard.Target>
        <Button>Alba</Button>
      </HoverCard.Target>
      <HoverCard.Dropdown>Length 31 m</HoverCard.Dropdown>
    </HoverCard>
  );
}
function Saved() {
  return (
    <Button onClick={() => notifications.show({ title: 'Saved', message: 'Berth 7 is yours.', autoClose: 3000 })}>
      Save
    </Button>
  );
}
function Busy() {
  const [busy, { toggle }] = useDisclosure(false);
  return (
    <div style={{ position: 'relative', height: 120 }}>
      <LoadingOverlay visible={busy} />
      <Button onClick={toggle}>Load</Button>
    </div>
  );
}
const all = { Question, Side, More, Hint, Fees, Card, Saved, Busy };
function Overlay({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Overlay, {
  props: { what: 'Question' },
  states: {
    'modal asked': { script: () => click(the.button('Release berth')) },
    'modal answered': {
      after: 'modal asked',
      async script() {
        await click(the.button('Keep it'));
        await ensure(the.dialog()).isAbsent();
      },
    },
    'modal left by key': { after: 'modal asked', script: () => press('Escape') },
    'drawer open': { props: { what: 'Side' }, script: () => click(the.button('Arrivals')) },
    'drawer left': { after: 'drawer open', script: () => press('Escape') },
    'menu open': { props: { what: 'More' }, script: () => click(the.button('More')) },
    'menu chosen from': { after: 'menu open', script: () => click(the.menuitem('Bill')) },
    'tooltip shown': {
      props: { what: 'Hint' },
      async script() {
        await hover(the.button('Tide'));
        await ensure(the.tooltip()).isVisible();
      },
    },
    'popover on its way': {
      props: { what: 'Fees' },
      async script() {
        await click(the.button('Fees'));
        await clock.advance(70);
        await capture('on its way', { settle: 0 });
      },
    },
    'hover card': {
      props: { what: 'Card' },
      async script() {
        await hover(the.button('Alba'));
        await ensure(the.text('Length 31 m')).isVisible();
      },
    },
    'toast there': {
      props: { what: 'Saved' },
      async script() {
        await click(the.button('Save'));
        await ensure(the.text('Berth 7 is yours.')).isVisible();
      },
    },
    'toast gone': { after: 'toast there', script: () => clock.advance(4000) },
    'overlay over it': { props: { what: 'Busy' }, script: () => click(the.button('Load')) },
  },
});
