/** How the sheet and the easel are looked at, as a menu beside that of the sound. */
import { Eye } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Command } from '../commands/command.js';
import { LANE_HEIGHTS, looking, type LaneHeight } from '../looking/looking.js';
import { Button } from '../ui/Button.js';
import { Pills } from '../ui/Pills.js';
import { Toggle } from '../ui/Toggle.js';

interface LookMenuProps {
  /** Those of looking. */
  readonly commands: readonly Command[];
  readonly hasMouths: boolean;
}

export function LookMenu({ commands, hasMouths }: LookMenuProps): ReactElement {
  const { sheet, zoom, lane, thick, onion, isEaselLarge } = useStore(looking);
  const isUpright = hasMouths && sheet === 'upright';
  const press = (id: string, text: string): ReactElement | undefined => {
    const command = commands.find((one) => one.id === id);
    if (!command) return undefined;
    return (
      <Button
        className="py-[3px]! text-[14px]!"
        title={command.title}
        disabled={command.closed !== undefined}
        onClick={() => command.run()}
      >
        {text}
      </Button>
    );
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        title="How it is looked at"
        aria-label="How it is looked at"
        className="grid size-9 place-items-center rounded-full border border-transparent text-ink hover:border-rule hover:bg-lift"
      >
        <Eye size={17} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="How it is looked at"
          side="top"
          align="start"
          sideOffset={12}
          collisionPadding={12}
          className="z-40 flex w-[352px] flex-col gap-3 rounded-2xl border border-rule bg-sheet p-5 text-[14px]"
        >
          {hasMouths && (
            <Pills
              label="Which sheet"
              options={[
                ['bars', 'Bar sheet'],
                ['upright', 'Exposure sheet'],
              ]}
              value={sheet}
              onChange={(next) => looking.setState({ sheet: next })}
            />
          )}
          {isUpright ? (
            <div className="flex flex-col gap-1.5">
              <span className="font-semibold">Thicker rules</span>
              <Pills
                label="Thicker rules"
                options={[
                  ['seconds', 'each second'],
                  ['feet', 'each foot of 16'],
                ]}
                value={thick}
                onChange={(next) => looking.setState({ thick: next })}
              />
            </div>
          ) : (
            <div className="flex flex-col gap-1.5">
              <span className="font-semibold">
                {zoom === null ? 'As many frames a row as suit the page' : `${zoom} frames a row at most`}
              </span>
              <div className="flex flex-wrap gap-1.5">
                {press('zoom-out', 'More')}
                {press('zoom-in', 'Fewer')}
                {press('zoom-fits', 'As suits')}
                {press('zoom-whole', 'All in one')}
              </div>
            </div>
          )}
          {hasMouths && !isUpright && (
            <div className="flex flex-col gap-1.5">
              <span className="font-semibold">The lane of mouths</span>
              <Pills
                label="The lane of mouths"
                options={(Object.keys(LANE_HEIGHTS) as LaneHeight[]).map((height) => [height, height] as const)}
                value={lane}
                onChange={(next) => looking.setState({ lane: next })}
              />
            </div>
          )}
          {hasMouths && (
            <div className="flex flex-col gap-1.5">
              <span className="font-semibold">The easel</span>
              <div className="flex flex-wrap gap-1.5">
                <Toggle on={onion} onToggle={() => looking.setState({ onion: !onion })} title="O">
                  before and after seen through
                </Toggle>
                <Toggle on={isEaselLarge} onToggle={() => looking.setState({ isEaselLarge: !isEaselLarge })} title="`">
                  large
                </Toggle>
              </div>
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
