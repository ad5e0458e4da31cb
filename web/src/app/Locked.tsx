import { Button, Group, PasswordInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useSignIn, useSignOut } from "../api/queries";
import type { Session } from "../api/types";
import { Refusal } from "../ui/Refusal";
import { Mark } from "./SignIn";
import classes from "./shell.module.css";
import { tr } from "../words/words";

/** The screen of somebody who went away: their PIN goes on where they were, or somebody else signs in. */
export function Locked({ session, onOpen }: { session: Session; onOpen: () => void }) {
  const signIn = useSignIn();
  const signOut = useSignOut();
  const [pin, setPin] = useInputState("");
  const { login, name } = session.person;
  return (
    <main className={classes.choosePin}>
      <form
        className={classes.signInForm}
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate({ login, pin }, { onSuccess: onOpen });
        }}
      >
        <Group component="h1" gap={12} fz={28}>
          <Mark /> {tr("Locked", { context: "screen" })}
        </Group>
        <p className="big">{name}</p>
        <PasswordInput
          label={tr("PIN, to go on")}
          name="pin"
          value={pin}
          onChange={setPin}
          autoComplete="off"
          inputMode="numeric"
          autoFocus
        />
        <Refusal error={signIn.error} />
        <Button type="submit" color="now" size="lg" mih={64} loading={signIn.isPending} disabled={pin.length < 4}>
          {tr("Go on")}
        </Button>
        <Button variant="default" onClick={() => signOut.mutate(undefined, { onSuccess: onOpen })} loading={signOut.isPending}>
          {tr("Somebody else")}
        </Button>
      </form>
    </main>
  );
}
