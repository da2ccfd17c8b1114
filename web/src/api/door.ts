/** Whether the server lets this browser in: shut once it asks for a sign-in, open again when somebody has signed in. */
import { createStore } from 'zustand/vanilla';

export const door = createStore<{ readonly isShut: boolean }>(() => ({ isShut: false }));
