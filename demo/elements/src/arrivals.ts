export type Arrival = { vessel: string; draught: number | null; purpose: string; goods: boolean };

/** What came of a booking: its number, or what went wrong. */
export type Booked = { number: string } | { wrong: string };

/** Books an arrival with the office. */
export async function book(berth: string, arrival: Arrival): Promise<Booked> {
  try {
    const reply = await fetch(`/api/berths/${berth}/arrivals`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(arrival),
    });
    const body = (await reply.json()) as { number: string; message: string };
    if (reply.status === 409) return { wrong: body.message };
    if (!reply.ok) throw new Error(String(reply.status));
    return { number: body.number };
  } catch {
    return { wrong: 'The office cannot be reached. Nothing was booked.' };
  }
}

export const purposes = [
  { value: 'visit', label: 'Visit' },
  { value: 'repair', label: 'Repair' },
  { value: 'shelter', label: 'Shelter from weather' },
  { value: 'trade', label: 'Loading or unloading' },
];
