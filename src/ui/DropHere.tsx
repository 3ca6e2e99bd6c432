/** What is seen while files are dragged over the page. */
export function DropHere({ words }: { words: string }) {
  return (
    <p className="pointer-events-none fixed inset-3 z-50 flex items-center justify-center rounded-2xl border-4 border-lime border-dashed bg-paper/70 font-bold font-head text-xl">
      {words}
    </p>
  );
}
