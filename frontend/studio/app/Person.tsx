import { DropdownMenu } from "radix-ui";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { Tip } from "../ui/basics";
import { ForAll } from "../ui/rights";

const DIALOGS = {
  password: lazy(() => import("./PasswordDialog")),
  sessions: lazy(() => import("./SessionsDialog")),
};

/** Who is signed in, and what they may do about it. */
export function Person({ me }: { me: Schemas["SessionOut"] }) {
  const [open, setOpen] = useState<keyof typeof DIALOGS | null>(null);
  const Opened = open && DIALOGS[open];
  const initials = (me.name ?? "?")
    .split(" ")
    .map((word) => word[0])
    .join("");
  return (
    <>
      <DropdownMenu.Root>
        <Tip text={me.name ?? ""}>
          <DropdownMenu.Trigger
            className="grid h-[26px] w-[26px] place-items-center rounded-full bg-[#3d4a61] text-[11px] font-bold"
            aria-label={`${initials}: ${me.name}`}
          >
            {initials}
          </DropdownMenu.Trigger>
        </Tip>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="float min-w-[210px] p-1.5" align="end" sideOffset={6} data-floating>
            <p className="px-2 py-1">
              <b>{me.name}</b>
              <span className="hint block">may {me.rights.join(", ")}</span>
            </p>
            <Item onSelect={() => setOpen("password")}>Change password</Item>
            <Item onSelect={() => setOpen("sessions")}>Your sessions</Item>
            <Item onSelect={() => window.open("/shop/", "_blank")}>Open the shop</Item>
            <Item
              onSelect={() =>
                data(client.DELETE("/api/session")).then(() => {
                  window.location.href = "/studio/";
                })
              }
            >
              Sign out
            </Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <ForAll>
        <Suspense fallback={null}>{Opened && <Opened onClose={() => setOpen(null)} />}</Suspense>
      </ForAll>
    </>
  );
}

function Item(props: { onSelect: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item
      className="cursor-pointer rounded px-2 py-1.5 outline-none data-[highlighted]:bg-woad-tint"
      onSelect={props.onSelect}
    >
      {props.children}
    </DropdownMenu.Item>
  );
}
