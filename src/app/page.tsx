import { Shelf } from '@/features/shelf/Shelf';

export default function ShelfPage() {
  return <Shelf />;
}
