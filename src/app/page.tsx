import { connection } from 'next/server';
import { Shelf } from '@/features/shelf/Shelf';
import { whileInHand } from '@/server/service/inHand';
import { shelf } from '@/server/service/shelf';

export default async function ShelfPage() {
  await connection();
  // The page doesn't wait for its cards: they follow in the same answer. Where they can't be read, the page says why once it has asked for them itself.
  return <Shelf first={whileInHand(shelf).catch(() => null)} />;
}
