/** How the speaker of a clip speaks: the language of its script, the accent, and the production's own words. */
import { changeClip, PLAIN_ACCENT, type Accent, type CharacterView, type Clip, type ScriptLanguage } from '@zest-jaw/core';
import { useQueryClient } from '@tanstack/react-query';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type ReactElement } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';

const LANGUAGES: Readonly<Record<ScriptLanguage, string>> = { en: 'English', fr: 'French', ipa: 'Another, spelled in IPA' };
const BASES: Readonly<Record<Accent['base'], string>> = { us: 'General American', gb: 'British' };
const SWITCHES: readonly (readonly [Exclude<keyof Accent, 'base'>, string])[] = [
  ['nonRhotic', 'no r before a consonant or at the end'],
  ['droppedH', 'h may be dropped: ’and for hand'],
  ['flappedT', 't tapped between vowels: wadder for water'],
  ['thFronting', 'th as f or v: fink for think'],
];

function named(language: ScriptLanguage, { base, ...switches }: Accent): string {
  if (language !== 'en') return LANGUAGES[language];
  const count = Object.values(switches).filter(Boolean).length;
  return count === 0 ? BASES[base] : `${BASES[base]}, and ${count} more`;
}

export function SpeechMenu({ clip }: { clip: Clip }): ReactElement {
  const { session, characters, productionId } = useOpenScene();
  const client = useQueryClient();
  const character = characters.find((candidate) => candidate.id === clip.characterId);
  const [changed, setChanged] = useState<Accent>();
  const accent = changed ?? character?.accent ?? PLAIN_ACCENT;
  const change = (changes: Partial<Accent>): void => {
    const next = { ...accent, ...changes };
    setChanged(next);
    api<CharacterView>(`/characters/${clip.characterId}/accent`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(next),
    })
      .then(() => client.invalidateQueries({ queryKey: ['productions'] }))
      .catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="flex items-center gap-1 self-start rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] text-ink-soft hover:border-graphite hover:text-ink">
        {`Spoken in ${named(clip.language, accent)}`}
        <ChevronDown size={14} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="How it is spoken"
          align="start"
          sideOffset={8}
          className="z-40 w-[350px] rounded-2xl border border-rule bg-sheet p-5 text-[15px]"
        >
          <p className="name text-[18px]">{`How ${character?.name ?? 'the speaker'} speaks`}</p>
          <p className="mb-3 text-[14px] text-ink-soft">Used when the track is read the next time.</p>
          <label className="mb-3 flex flex-col gap-1 font-semibold">
            Language of this recording
            <select
              className="field font-normal"
              value={clip.language}
              onChange={({ target }) =>
                session.change(changeClip(session.store.getState().document, clip.id, { language: target.value as ScriptLanguage }, newId))
              }
            >
              {Object.entries(LANGUAGES).map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          {clip.language === 'en' && (
            <>
              <label className="mb-2 flex flex-col gap-1 font-semibold">
                Accent
                <select
                  className="field font-normal"
                  value={accent.base}
                  onChange={({ target }) => change({ base: target.value as Accent['base'] })}
                >
                  {Object.entries(BASES).map(([id, name]) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
              {SWITCHES.map(([name, text]) => (
                <label key={name} className="flex items-center gap-2 py-0.5 text-[14px]">
                  <input type="checkbox" checked={accent[name]} onChange={({ target }) => change({ [name]: target.checked })} />
                  {text}
                </label>
              ))}
            </>
          )}
          <Link to={`/productions/${productionId}/pronunciations`} className="mt-3 inline-block font-semibold underline underline-offset-2">
            Pronunciations of this production
          </Link>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
