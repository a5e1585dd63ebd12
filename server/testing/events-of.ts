export interface ServerEvent {
  event: string;
  data: string;
}

/** Reads what a server sends, one event after another; fails where nothing more comes. */
export function eventsOf(response: Response): { next(): Promise<ServerEvent>; leave(): Promise<void> } {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let held = '';
  return {
    async next() {
      for (;;) {
        const end = held.indexOf('\n\n');
        if (end >= 0) {
          const text = held.slice(0, end);
          held = held.slice(end + 2);
          return {
            event: /^event: (.*)$/m.exec(text)?.[1] ?? '',
            data: /^data: (.*)$/m.exec(text)?.[1] ?? '',
          };
        }
        const { value, done } = await reader.read();
        if (done) throw new Error('The stream has ended.');
        held += value;
      }
    },
    leave: () => reader.cancel().catch(() => {}),
  };
}
