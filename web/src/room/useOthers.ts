/** The company around an open scene, for whatever shows it. */
import type { CompanyView } from '@zest-jaw/core';
import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import { newOthers, type OthersStore } from './company.js';

/** Nobody, where no scene is open. */
export const CompanyContext = createContext<OthersStore>(newOthers());

export const useOthers = (): readonly CompanyView[] => useStore(useContext(CompanyContext), ({ others }) => others);

export const nameOfOther = ({ name }: CompanyView): string => name ?? 'Another window';
