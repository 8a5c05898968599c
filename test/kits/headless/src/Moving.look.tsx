import { closestCenter, DndContext, KeyboardSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable';
import { useVirtualizer } from '@tanstack/react-virtual';
import useEmblaCarousel from 'embla-carousel-react';
import { AnimatePresence, motion } from 'motion/react';
import { useRef, useState } from 'react';
import { toast, Toaster } from 'sonner';
import { capture, click, clock, ensure, looks, press, the } from 'sguardo';

function Presence() {
  const [shown, show] = useState(true);
  return (
    <>
      <button type="button" onClick={() => show(!shown)}>
        Toggle
      </button>
      <AnimatePresence>
        {shown && (
          <motion.p initial={{ opacity: 0, y: 20 }} animate={{ opacity: 1, y: 0 }} exit={{ opacity: 0, x: 40 }}>
            Pilot on board
          </motion.p>
        )}
      </AnimatePresence>
    </>
  );
}
function Spring() {
  const [far, go] = useState(false);
  return (
    <>
      <button type="button" onClick={() => go(!far)}>
        Push
      </button>
      <motion.div animate={{ x: far ? 200 : 0, rotate: far ? 90 : 0 }} transition={{ type: 'spring' }}>
        buoy
      </motion.div>
    </>
  );
}
function Layout() {
  const [order, setOrder] = useState(['Alba', 'Borea', 'Cetus']);
  return (
    <>
      <button type="button" onClick={() => setOrder(order.toReversed())}>
        Turn round
      </button>
      {order.map((name) => (
        <motion.div layout key={name}>
          {name}
        </motion.div>
      ))}
    </>
  );
}
function Row({ id }: { id: string }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  const style = { transform: transform ? `translate(0, ${transform.y}px)` : undefined, transition };
  return (
    <li ref={setNodeRef} style={style} {...attributes} {...listeners}>
      {id}
    </li>
  );
}
function Sorted() {
  const [ids, setIds] = useState(['Alba', 'Borea', 'Cetus']);
  const sensors = useSensors(useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) =>
        over && setIds(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))))
      }
    >
      <SortableContext items={ids}>
        <ul>
          {ids.map((id) => (
            <Row key={id} id={id} />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}
function Long() {
  const parent = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: 10_000, getScrollElement: () => parent.current, estimateSize: () => 24 });
  return (
    <>
      <button type="button" onClick={() => rows.scrollToIndex(5000)}>
        To the middle
      </button>
      <div ref={parent} style={{ height: 240, overflow: 'auto' }}>
        <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
          {rows.getVirtualItems().map(({ key, index, start }) => (
            <div key={key} style={{ position: 'absolute', top: start, height: 24 }}>
              Arrival {index}
            </div>
          ))}
        </div>
      </div>
    </>
  );
}
function Carousel() {
  const [ref, api] = useEmblaCarousel();
  return (
    <>
      <button type="button" onClick={() => api?.scrollNext()}>
        Next
      </button>
      <div className="viewport" ref={ref}>
        <div className="track">
          <div>one</div>
          <div>two</div>
          <div>three</div>
        </div>
      </div>
    </>
  );
}
function Toasts() {
  return (
    <>
      <button type="button" onClick={() => toast('Berth saved', { duration: 2000 })}>
        Save
      </button>
      <Toaster />
    </>
  );
}
const all = { Presence, Spring, Layout, Sorted, Long, Carousel, Toasts };
function Moving({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Moving, {
  props: { what: 'Presence' },
  states: {
    there: {},
    'on its way out': {
      async script() {
        await click(the.button('Toggle'));
        await clock.advance(100);
        await capture('on its way', { settle: 0 });
        await ensure(the.text('Pilot on board')).isAbsent();
      },
    },
    sprung: { props: { what: 'Spring' }, script: () => click(the.button('Push')) },
    'half sprung': {
      props: { what: 'Spring' },
      async script() {
        await click(the.button('Push'));
        await clock.advance(150);
        await capture('on its way', { settle: 0 });
      },
    },
    'turned round': { props: { what: 'Layout' }, script: () => click(the.button('Turn round')) },
    'list to sort': { props: { what: 'Sorted' } },
    'sorted by key': {
      props: { what: 'Sorted' },
      async script() {
        await press(the.text('Alba'), ' ');
        await clock.advance(300);
        await press('ArrowDown');
        await clock.advance(300);
        await press(' ');
      },
    },
    'long list': { props: { what: 'Long' } },
    'long list, middle': {
      props: { what: 'Long' },
      async script() {
        await click(the.button('To the middle'));
        await ensure(the.text('Arrival 5000')).isVisible();
      },
    },
    'next slide': { props: { what: 'Carousel' }, script: () => click(the.button('Next')) },
    'toast there': {
      props: { what: 'Toasts' },
      async script() {
        await click(the.button('Save'));
        await ensure(the.text('Berth saved')).isVisible();
      },
    },
    'toast gone': { after: 'toast there', script: () => clock.advance(3000) },
  },
});
