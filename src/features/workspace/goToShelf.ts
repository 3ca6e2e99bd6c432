import { serverAnswers } from '@/features/sync/api';
import { toast } from '@/ui/toast';

/** Goes to the shelf, which lies on the server: while that doesn't answer the open project stays, and it is said. */
export async function goToShelf(go: () => void): Promise<void> {
  if (await serverAnswers()) go();
  else
    toast.message('The server does not answer, and the shelf is there. Your project stays open here; everything you do in it is safe.', {
      id: 'shelf',
    });
}
