import {
  CircularProgress,
  LinearProgress,
  Pagination,
  Skeleton,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TablePagination,
  TableRow,
  TableSortLabel,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { Bar, BarChart, Line, LineChart, XAxis, YAxis } from 'recharts';
import { capture, click, clock, ensure, looks, the } from 'sguardo';

const ships = ['Alba', 'Borea', 'Cetus', 'Delfin', 'Egret', 'Fulmar', 'Gannet'].map((name, i) => ({
  name,
  length: 20 + ((i * 17) % 31),
}));

function Ships() {
  const [up, setUp] = useState(true);
  const [page, setPage] = useState(0);
  const sorted = ships.toSorted((a, b) => (up ? a.length - b.length : b.length - a.length));
  return (
    <>
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell>Ship</TableCell>
            <TableCell sortDirection={up ? 'asc' : 'desc'}>
              <TableSortLabel active direction={up ? 'asc' : 'desc'} onClick={() => setUp(!up)}>
                Length
              </TableSortLabel>
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {sorted.slice(page * 3, page * 3 + 3).map(({ name, length }) => (
            <TableRow key={name} hover>
              <TableCell>{name}</TableCell>
              <TableCell>{length} m</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <TablePagination
        component="div"
        count={ships.length}
        page={page}
        rowsPerPage={3}
        rowsPerPageOptions={[3]}
        onPageChange={(_, next) => setPage(next)}
      />
    </>
  );
}
function Loading() {
  const [here, come] = useState(false);
  useEffect(() => {
    const id = setTimeout(() => come(true), 800);
    return () => clearTimeout(id);
  }, []);
  return here ? <p>Three ships</p> : <Skeleton width={200} height={40} />;
}
function Working() {
  return (
    <>
      <CircularProgress />
      <LinearProgress />
    </>
  );
}
function Tides() {
  return (
    <LineChart width={500} height={250} data={[3, 5, 2, 6, 4].map((metres, hour) => ({ hour, metres }))}>
      <XAxis dataKey="hour" />
      <YAxis />
      <Line dataKey="metres" />
    </LineChart>
  );
}
function Lengths() {
  return (
    <BarChart width={500} height={250} data={ships}>
      <XAxis dataKey="name" />
      <Bar dataKey="length" fill="#0b5563" />
    </BarChart>
  );
}
function Pages() {
  return <Pagination count={9} />;
}
const all = { Ships, Loading, Working, Tides, Lengths, Pages };
function Data({ what }: { what: keyof typeof all }) {
  const One = all[what];
  return <One />;
}

export default looks(Data, {
  props: { what: 'Ships' },
  states: {
    table: {},
    'table sorted': { script: () => click(the.button('Length')) },
    'table, next page': { script: () => click(the.button(/next page/)) },
    'skeleton and after': {
      props: { what: 'Loading' },
      async script() {
        await capture('skeleton', { settle: 0 });
        await ensure(the.text('Three ships')).isVisible();
      },
    },
    'works for ever': { props: { what: 'Working' } },
    'line chart': { props: { what: 'Tides' }, script: () => clock.advance(2000) },
    'bar chart': { props: { what: 'Lengths' }, script: () => clock.advance(2000) },
    'page chosen': { props: { what: 'Pages' }, script: () => click(the.button(/page 3/)) },
  },
});
