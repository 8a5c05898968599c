import { createRoot } from 'react-dom/client';
import { ArrivalForm } from './ArrivalForm';
import { BerthCard } from './BerthCard';
import { FeeTable } from './FeeTable';
import { FreedNotice } from './FreedNotice';
import { fees, springTide } from './samples';
import { TideCurve } from './TideCurve';
import { WeatherNotice } from './WeatherNotice';
import './harbour.css';

createRoot(document.getElementById('app')!).render(
  <main className="sheet">
    <WeatherNotice station="Molo Est" />
    <BerthCard berth="C-14" vessel="Aliseo" draught={2.1} length={11.4} onRelease={() => {}} />
    <FreedNotice berth="C-15" onUndo={() => {}} />
    <TideCurve readings={springTide} draught={1.4} />
    <FeeTable fees={fees} />
    <ArrivalForm berth="C-14" depth={3.2} onArrived={() => {}} />
  </main>,
);
