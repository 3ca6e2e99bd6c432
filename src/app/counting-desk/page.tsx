import type { Metadata } from 'next';
import { OpenDesk } from '@/app/counting-desk/OpenDesk';

export const metadata: Metadata = { title: 'Counting desk · Lime Tick' };

export default function CountingDeskPage() {
  return <OpenDesk />;
}
