/** Which of the dialogs about pictures of a head was asked for: by the menu of lanes, or by the list of commands. */
import { createStore } from 'zustand/vanilla';

export type AskedOfPictures = 'bring' | 'follow';

export const askedOfPictures = createStore<{ readonly asked: AskedOfPictures | undefined }>(() => ({ asked: undefined }));

export const askOfPictures = (asked: AskedOfPictures | undefined): void => askedOfPictures.setState({ asked });
