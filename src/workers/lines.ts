/** What a server tells line by line, each as JSON. */
export async function* linesOf<Line>(response: Response): AsyncGenerator<Line> {
  if (!response.body) return;
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  try {
    for (;;) {
      const { value, done } = await reader.read();
      const lines = `${rest}${value ?? ''}`.split('\n');
      rest = done ? '' : (lines.pop() ?? '');
      for (const line of lines) if (line !== '') yield JSON.parse(line) as Line;
      if (done) return;
    }
  } finally {
    await reader.cancel();
  }
}
