import type { Metadata } from 'next';
import { StorePage } from '@/features/shelf/StorePage';

export const metadata: Metadata = { title: 'The store · Lime Tick' };

export default function TheStorePage() {
  return <StorePage />;
}
