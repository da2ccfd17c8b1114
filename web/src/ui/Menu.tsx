/** A small sheet of choices under a button: Radix's menu in our clothes. */
import { clsx } from 'clsx';
import { DropdownMenu } from 'radix-ui';
import { useRef, type ComponentProps, type ReactElement, type ReactNode } from 'react';

interface MenuProps {
  /** The button that opens it. */
  readonly trigger: ReactElement;
  readonly align?: 'start' | 'end';
  /** Its width, and what else differs. */
  readonly className?: string;
  readonly children: ReactNode;
}

export function Menu({ trigger, align = 'start', className = 'min-w-[200px]', children }: MenuProps): ReactElement {
  // Chosen with the mouse the keys are the page's again; by keyboard the focus goes back to the button.
  const byPointer = useRef(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={6}
          onPointerDownCapture={() => (byPointer.current = true)}
          onPointerDownOutside={() => (byPointer.current = true)}
          onKeyDownCapture={() => (byPointer.current = false)}
          onCloseAutoFocus={(event) => byPointer.current && event.preventDefault()}
          className={clsx('z-[60] rounded-xl border border-rule bg-sheet p-2 text-[15px]', className)}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ITEM =
  'flex cursor-default items-center gap-2 rounded-[9px] px-2 py-1.5 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-word';

export function MenuItem({ className, ...rest }: ComponentProps<typeof DropdownMenu.Item>): ReactElement {
  return <DropdownMenu.Item {...rest} className={clsx(ITEM, className)} />;
}

export function MenuCheck({ className, ...rest }: ComponentProps<typeof DropdownMenu.CheckboxItem>): ReactElement {
  return <DropdownMenu.CheckboxItem {...rest} className={clsx(ITEM, className)} />;
}

export const MenuRule = (): ReactElement => <DropdownMenu.Separator className="my-1 h-px bg-rule" />;
