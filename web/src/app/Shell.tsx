import { Button, Group, Menu, Modal, NativeSelect, Switch, Text, useMantineColorScheme } from "@mantine/core";
import { createContext, type ReactNode, useContext, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { createPortal } from "react-dom";
import { Link, Outlet, useLocation, useNavigate } from "react-router";
import { clock, clockWords } from "../api/clock";
import { useMay, useSession, useSignOut } from "../api/queries";
import { amount } from "../along/amount";
import { hourMinute } from "../ui/format";
import { PinFields } from "./ChoosePin";
import { Finder } from "./Finder";
import { LANGUAGE } from "./Language";
import { LockContext, useOutboxState } from "./context";
import { letterKeys, useKeys } from "./keys";
import { lockAfter } from "./lock";
import { release } from "./release";
import { SCARCE, useRoom } from "./room";
import { Calendar } from "./Calendar";
import { Mark } from "./SignIn";
import classes from "./shell.module.css";
import { told, tr } from "../words/words";

const Slot = createContext<HTMLElement | null>(null);

/** Puts what belongs to a page into the bar above it. */
export function InBar({ children }: { children: ReactNode }) {
  const slot = useContext(Slot);
  return slot ? createPortal(children, slot) : null;
}

const help: [string, string][] = [
  ["space", tr("the main act of the screen")],
  ["1 – 5", tr("the stations of a joint")],
  ["s", tr("the tool is in the hand and set")],
  ["c", tr("the cautions are read")],
  ["r", tr("type a reading")],
  ["n", tr("no turn")],
  ["m", tr("it moved, in a round")],
  ["t", "trouble"],
  ["p", "pause"],
  ["v", tr("the next bolt is said aloud, or no longer")],
  ["z", tr("correct the last entry")],
  ["/", tr("find a joint by its tag")],
  ["g w", tr("the Wall")],
  ["g c", tr("the Crib")],
  ["g b", tr("the Bench, with the joint that is on the screen")],
  ["g l", tr("the Library")],
  ["g i", tr("the Site, for an administrator")],
  ["?", tr("these keys")],
];

/** The bar across the top, and the page below it. */
export function Shell() {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const [finding, setFinding] = useState(false);
  const [helping, setHelping] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const [due, setDue] = useState(false);
  const lock = useContext(LockContext);
  const going = useRef(-Infinity); // when g was pressed last
  const navigate = useNavigate();
  const path = useLocation().pathname;
  const keeper = useMay("administrator");
  const session = useSession();
  const goes = (to: string) => (e: KeyboardEvent) => {
    if (e.timeStamp - going.current < 1500) void navigate(to);
  };
  useKeys({
    "/": () => setFinding(true),
    "?": () => setHelping(true),
    g: (e) => {
      going.current = e.timeStamp;
    },
    w: goes("/wall"),
    c: goes("/crib"),
    b: goes(benchOf(path)),
    l: goes("/library"),
    ...(keeper ? { i: goes("/site") } : {}),
  });
  return (
    <div className={classes.shell}>
      <header className={classes.bar}>
        <Link to="/wall" className={classes.name} aria-label={tr("Dynacor, to the Wall")}>
          <Mark />
          <span className={classes.nameText}>{tr("Dynacor")}</span>
        </Link>
        <div className={classes.slot} ref={setSlot} />
        <Group component="nav" gap={0} wrap="nowrap" aria-label={tr("Rooms")}>
          {path !== "/wall" && (
            <Link to="/wall" className={classes.room}>
              {tr("Wall")}
            </Link>
          )}
          {!path.startsWith("/crib") && (
            <Link to="/crib" className={classes.room}>
              {tr("Crib")}
            </Link>
          )}
          {!path.startsWith("/bench") && (
            <Link to={benchOf(path)} className={classes.room}>
              {tr("Bench")}
            </Link>
          )}
          {!path.startsWith("/library") && (
            <Link to="/library" className={classes.room}>
              {tr("Library")}
            </Link>
          )}
          {keeper && path !== "/site" && (
            <Link to="/site" className={classes.room}>
              {tr("Site")}
            </Link>
          )}
        </Group>
        <Stored />
        <Me
          onFind={() => setFinding(true)}
          onPin={() => setChoosing(true)}
          onHelp={() => setHelping(true)}
          onCalendar={() => setDue(true)}
          onLock={lock}
        />
      </header>
      {path.split("/")[1] !== "joint" && <Newer />}
      <Scarce />
      <Slot value={slot}>
        <div className={classes.page} data-scrolls>
          <Outlet />
        </div>
      </Slot>
      {choosing && session && (
        <Modal opened onClose={() => setChoosing(false)} title={<b>{tr("Another PIN")}</b>}>
          <PinFields session={session} onChosen={() => setChoosing(false)} />
        </Modal>
      )}
      {due && <Calendar onClose={() => setDue(false)} />}
      {finding && <Finder onClose={() => setFinding(false)} />}
      <Modal opened={helping} onClose={() => setHelping(false)} title={<b>{tr("Keys, and this device")}</b>}>
        <dl>
          {help.map(([key, what]) => (
            <Group key={key} gap={16} py={7}>
              <Text component="dt" w={80}>
                <kbd>{key}</kbd>
              </Text>
              <dd>{what}</dd>
            </Group>
          ))}
        </dl>
        <LetterKeys />
        <LockAfter />
      </Modal>
    </div>
  );
}

/** The Bench: with the joint that is on the screen, if one is. */
function benchOf(path: string) {
  const [, room, joint] = path.split("/");
  return room === "joint" && joint ? `/bench/${joint}` : "/bench";
}

/** Says that a device is nearly full before anything is refused by it. */
function Scarce() {
  const left = useRoom();
  if (left === undefined || left > SCARCE) return null;
  return (
    <p className={classes.newer} role="status" data-scarce>
      <span>
        {tr(
          "This device has room for {left} more: soon nothing that is done can be kept here. Store what waits, and drop what is not needed.",
          { left: amount(left) },
        )}
      </span>
      <Button component={Link} to="/device" color="now">
        {tr("This device")}
      </Button>
    </p>
  );
}

/** A newer release waits until no joint is on the screen and nothing waits to be stored. */
function Newer() {
  const newer = useSyncExternalStore(release.subscribe, release.read);
  const { acts } = useOutboxState();
  if (!newer || acts.length > 0) return null;
  return (
    <p className={classes.newer} role="status">
      {tr("A newer release of Dynacor is here.")}
      <Button color="now" onClick={() => release.takeOver()} data-newer>
        {tr("Change to it now")}
      </Button>
    </p>
  );
}

function LockAfter() {
  const [minutes, setMinutes] = useState(() => String(lockAfter.minutes()));
  return (
    <NativeSelect
      mt={14}
      label={tr("Lock this device when nobody touches it for")}
      value={minutes}
      onChange={(e) => {
        lockAfter.set(Number(e.currentTarget.value));
        setMinutes(e.currentTarget.value);
      }}
      data={[
        { value: "5", label: tr("5 minutes") },
        { value: "15", label: tr("15 minutes") },
        { value: "60", label: tr("an hour") },
        { value: "0", label: tr("ever: never lock it") },
      ]}
    />
  );
}

function LetterKeys() {
  const [on, setOn] = useState(letterKeys.on);
  return (
    <Switch
      mt={14}
      size="lg"
      label={tr("Single letters are keys on this device")}
      description={tr("Space bar, Enter and the foot pedal work either way.")}
      checked={on}
      onChange={(e) => {
        letterKeys.set(e.currentTarget.checked);
        setOn(e.currentTarget.checked);
      }}
    />
  );
}

/** Says whether everything is stored, and at once when the connection is lost. */
function Stored() {
  const { acts, online, storedAt, keeping } = useOutboxState();
  const waiting = acts.filter((a) => !a.problem).length;
  const refused = acts.length - waiting;
  const off = clockWords(useSyncExternalStore(clock.subscribe, clock.off));
  const { kind, text } = useMemo(() => {
    if (!online) return { kind: "lost", text: waiting ? tr("not stored, {waiting} kept here", { waiting }) : tr("no connection") };
    if (refused) return { kind: "lost", text: tr("{refused} not taken", { refused }) };
    if (off) return { kind: "sending", text: off };
    if (waiting > 2) return { kind: "sending", text: tr("storing {waiting}", { waiting }) };
    return { kind: "stored", text: storedAt ? tr("all stored, {storedAt}", { storedAt: hourMinute(storedAt) }) : tr("all stored") };
  }, [online, waiting, refused, storedAt, off]);
  return (
    <span className={classes.stored} data-kind={kind} data-waiting={waiting + keeping} role="status">
      <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
        {kind === "lost" ? (
          <path d="M1 1 L11 11 M11 1 L1 11" stroke="currentColor" strokeWidth="2.5" />
        ) : (
          <circle cx="6" cy="6" r={kind === "stored" ? 4 : 3} fill="currentColor" />
        )}
      </svg>
      <span>{text}</span>
    </span>
  );
}

interface MeProps {
  onFind: () => void;
  onPin: () => void;
  onHelp: () => void;
  onCalendar: () => void;
  onLock: () => void;
}

function Me({ onFind, onPin, onHelp, onCalendar, onLock }: MeProps) {
  const session = useSession();
  const signOut = useSignOut();
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  if (!session) return null;
  const dark = colorScheme === "dark";
  return (
    <Menu position="bottom-end" width={240}>
      <Menu.Target>
        <button type="button" className={classes.me}>
          {session.person.initials}{" "}
          <span className={classes.meRole}>
            {"· "}
            {session.person.roles.map((r) => told(r)).join(", ")}
          </span>
        </button>
      </Menu.Target>
      <Menu.Dropdown className={classes.menu}>
        <Menu.Label>{session.person.name}</Menu.Label>
        <Menu.Item onClick={onFind}>{tr("Find a joint")}</Menu.Item>
        <Menu.Item component={Link} to="/crib">
          {tr("Crib")}
        </Menu.Item>
        <Menu.Item component={Link} to="/library">
          {tr("Library")}
        </Menu.Item>
        {session.person.roles.includes("administrator") && (
          <Menu.Item component={Link} to="/site">
            {tr("Site")}
          </Menu.Item>
        )}
        <Menu.Item onClick={onPin}>{tr("Another PIN")}</Menu.Item>
        <Menu.Item onClick={() => setColorScheme(dark ? "light" : "dark")}>
          {dark ? tr("Light, for daytime") : tr("Dark, for night shift")}
        </Menu.Item>
        <Menu.Item component={Link} to="/device">
          {tr("This device")}
        </Menu.Item>
        <Menu.Item component={Link} to="/device#language">
          {LANGUAGE}
        </Menu.Item>
        <Menu.Item onClick={onCalendar}>{tr("What is due, in your calendar")}</Menu.Item>
        <Menu.Item onClick={onHelp}>{tr("Keys, and this device")}</Menu.Item>
        <Menu.Item onClick={onLock}>{tr("Lock the screen")}</Menu.Item>
        <Menu.Item onClick={() => signOut.mutate()}>{tr("Sign out, or change person")}</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
