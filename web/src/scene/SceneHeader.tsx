/** The header of an open scene: what it is, its steps, and whether it is saved. */
import { formatFrameRate, sceneSettings } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { useMemo, type ReactElement } from 'react';
import { NavLink } from 'react-router';
import { TopBar } from '../ui/Frame.js';
import { Others } from './Others.js';
import { useOpenScene, useSceneDocument } from './sceneContext.js';
import { SaveWord, type AnySession } from './SaveWord.js';
import { SceneSettingsMenu } from './SceneSettingsMenu.js';

const STEPS = [
  ['chart', 'Chart'],
  ['listen', 'Listen'],
  ['key', 'Key'],
  ['check', 'Check'],
  ['hand-off', 'Hand off'],
] as const;

const HOLDS = ['', 'on ones', 'on twos', 'on threes', 'on fours'];

export function SceneHeader({ production }: { production: string }): ReactElement {
  const { session, chartSessions } = useOpenScene();
  const saved = useMemo<AnySession[]>(() => [session, ...chartSessions.values()], [session, chartSessions]);
  const { title, frameRate } = useSceneDocument(sceneSettings);
  const hold = useSceneDocument(({ tracks }) => tracks[0]?.rules.holdFrames ?? 1);
  return (
    <TopBar>
      <h1 className="min-w-0 truncate text-ink-soft">
        {production} <span aria-hidden>/</span> <b className="font-semibold text-ink">{title}</b>
      </h1>
      <nav aria-label="Steps" className="mx-auto flex shrink-0 gap-1">
        {STEPS.map(([path, name]) => (
          <NavLink
            key={path}
            to={path}
            className={({ isActive }) =>
              clsx('rounded-full px-4 py-1.5 font-semibold', isActive ? 'bg-ink text-on-ink' : 'text-ink-soft hover:text-ink')
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="flex shrink-0 items-center gap-4 text-[14px] text-ink-soft">
        <span>{`${formatFrameRate(frameRate)} fps · ${HOLDS[hold] ?? `held ${hold}`}`}</span>
        <Others />
        <SceneSettingsMenu />
        <SaveWord sessions={saved} />
      </div>
    </TopBar>
  );
}
