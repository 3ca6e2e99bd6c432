import { connection } from 'next/server';
import { Shelf } from '@/features/shelf/Shelf';
import { whileInHand } from '@/server/service/inHand';
import { shelf } from '@/server/service/shelf';

export default async function ShelfPage() {
  await connection();
  // The page doesn't wait for it: its cards come with it as soon as they are known. Why they are not, it is told when it asks itself.
  return <Shelf first={whileInHand(shelf).catch(() => null)} />;
}
