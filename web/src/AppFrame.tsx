import { useQuery } from "@tanstack/react-query";
import { Outlet, useLocation, useNavigate } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";
import { OwnAccount } from "./access/OwnAccount";
import { api, ask, type Schemas } from "./api/client";
import { listen } from "./api/live";
import { buildsQuery, queries, sessionQuery, useMay, useUser } from "./api/queries";
import { waitsFor } from "./builds/BuildPlaces";
import { serverNow, timeOf, today, weekday } from "./format";
import { FindField } from "./overview/FindField";
import { useCellNames } from "./ui/cellNames";
import { Dab } from "./ui/Dab";
import { NotSentYet } from "./ui/NotSentYet";
import { OnlyFor } from "./ui/OnlyFor";
import { PlaceLink } from "./ui/PlaceLink";
import { Said } from "./ui/Said";

/** Pages that only a manager works with. */
const MANAGERS = ["/plan/what-if", "/shop", "/builds/new"];

/** Masthead and the page below it. */
export function AppFrame() {
  const session = useQuery(sessionQuery).data;
  const may = useMay();
  const { pathname } = useLocation();
  useCellNames();
  useEffect(() => {
    let stop: (() => void) | undefined;
    let gone = false;
    void listen().then((s) => {
      if (gone) s();
      else stop = s;
    });
    return () => {
      gone = true;
      stop?.();
    };
  }, []);
  return (
    <>
      <a href="#page" className="skip">
        To the page
      </a>
      <Masthead />
      {session?.diskFull && (
        <p role="alert" className="m-0 px-5 py-2 border-b-4 border-oxide bg-p0 text-oxide font-[650]">
          The disk of the shop’s machine is full: nothing can be kept. Make room on it.
        </p>
      )}
      <main id="page" tabIndex={-1} className="outline-none">
        <OnlyFor
          may={may.settle || !MANAGERS.some((p) => pathname === p || pathname.startsWith(`${p}/`))}
          whose="This page is the manager’s"
        >
          <Outlet />
        </OnlyFor>
      </main>
    </>
  );
}

function Masthead() {
  const { pathname } = useLocation();
  const may = useMay();
  const builds = waitingFirst(useQuery(buildsQuery).data ?? [], may.desk);
  const places: [string, string, boolean][] = [
    ["/", "Floor", pathname === "/"],
    ["/plan", "Plan", pathname.startsWith("/plan")],
    ["/builds", "Builds", pathname.startsWith("/builds")],
    ["/bench", "Bench", pathname.startsWith("/bench")],
    ...(may.manager ? ([["/shop", "Shop", pathname.startsWith("/shop")]] as [string, string, boolean][]) : []),
  ];
  return (
    <header className="mast">
      <PlaceLink className="wordmark" to="/">
        First Coat
      </PlaceLink>
      <nav className="places" aria-label="Places">
        {places.map(([to, name, here]) => (
          <PlaceLink key={to} to={to} aria-current={here ? "page" : undefined}>
            {name}
          </PlaceLink>
        ))}
      </nav>
      <FindField />
      <Said />
      <nav className="dabs" aria-label="Builds">
        {builds.slice(0, SHOWN).map((b) => (
          <PlaceLink
            key={b.id}
            to={`/builds/${b.number}`}
            title={b.title}
            aria-current={new RegExp(`^/builds/${b.number}(/|$)`).test(pathname) ? "page" : undefined}
          >
            <Dab number={b.number} colour={b.colourHex} w={32} h={18} />
          </PlaceLink>
        ))}
        {builds.length > SHOWN && <MoreBuilds builds={builds.slice(SHOWN)} />}
      </nav>
      <NotSentYet className="btn ml-3" />
      <Who />
    </header>
  );
}

/** Builds on which something waits for whoever looks, then the others, each as the shop has queued them. */
export const waitingFirst = (builds: readonly Schemas["BuildCard"][], desk: boolean) =>
  builds.toSorted((a, b) => Number(waitsFor(b.waits, desk).length > 0) - Number(waitsFor(a.waits, desk).length > 0));

/** Builds that the masthead has room for beside each other. */
const SHOWN = 6;

/** The others, by name. */
function MoreBuilds({ builds }: { builds: Schemas["BuildCard"][] }) {
  const navigate = useNavigate();
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn self-center" aria-label={`${builds.length} more builds`}>
        +{builds.length}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="bg-p0 border border-p4 rounded-[2px] p-1 z-30 max-h-[70vh] overflow-y-auto">
          {builds.map((b) => (
            <DropdownMenu.Item
              key={b.id}
              className="flex items-center gap-2 px-2 py-1 cursor-pointer data-[highlighted]:bg-p2 outline-none"
              onSelect={() => void navigate({ to: `/builds/${b.number}` })}
            >
              <Dab number={b.number} colour={b.colourHex} w={32} h={18} />
              {b.title}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Who() {
  const user = useUser();
  const navigate = useNavigate();
  const [own, setOwn] = useState(false);
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 10_000);
    return () => clearInterval(timer);
  }, []);
  const leave = async () => {
    await ask(api.DELETE("/api/session"));
    queries.clear();
    await navigate({ to: "/sign-in" });
  };
  return (
    <div className="ml-6 flex items-center gap-3 text-[14px] text-ink2">
      <time className="whitespace-nowrap">
        <b className="text-ink font-[650]">{weekday(today())}</b> {timeOf(serverNow())}
      </time>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn" aria-label={`${user?.name}: menu`}>
          {user?.name.split(" ")[0]}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="bg-p0 border border-p4 rounded-[2px] p-1 z-30">
            <DropdownMenu.Label className="px-2 py-1 text-ink2">{user?.role}</DropdownMenu.Label>
            <DropdownMenu.Item
              className="px-2 py-1 cursor-pointer data-[highlighted]:bg-p2 outline-none"
              onSelect={() => void navigate({ to: "/clock" })}
            >
              Clock
            </DropdownMenu.Item>
            <DropdownMenu.Item className="px-2 py-1 cursor-pointer data-[highlighted]:bg-p2 outline-none" onSelect={() => setOwn(true)}>
              Password and devices
            </DropdownMenu.Item>
            <DropdownMenu.Item className="px-2 py-1 cursor-pointer data-[highlighted]:bg-p2 outline-none" onSelect={() => void leave()}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {own && <OwnAccount onClose={() => setOwn(false)} />}
    </div>
  );
}
