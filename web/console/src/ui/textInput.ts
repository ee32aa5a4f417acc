import { useState } from 'react';

/**
 * A text that counts when one is done with it: on leaving or on Enter; Escape takes it back.
 * @param onTyping told of what is typed meanwhile; of nothing once it is done with or given up
 */
export function useTextInput(value: string, onDone: (text: string) => void, onTyping?: (text: string | undefined) => void) {
  const [typed, setTyped] = useState<string>();
  const reset = () => {
    setTyped(undefined);
    if (typed !== undefined) onTyping?.(undefined);
  };
  const done = () => {
    if (typed !== undefined && typed.trim() !== value) onDone(typed.trim());
    reset();
  };
  return {
    done,
    reset,
    input: {
      value: typed ?? value,
      onBlur: done,
      onChange: (event: { target: { value: string } }) => {
        setTyped(event.target.value);
        onTyping?.(event.target.value.trim());
      },
      onKeyDown: (event: { key: string }) => {
        if (event.key === 'Enter') done();
        else if (event.key === 'Escape') reset();
      },
    },
  };
}
