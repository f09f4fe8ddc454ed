import { Dialog } from "radix-ui";
import { api, ask } from "../api/client";
import { askAgain, queries, sessionQuery, useUser } from "../api/queries";
import { setSignedOut, useSignedOut } from "../api/signedOut";
import { sendUnsent } from "../api/unsent";
import { SignInForm, signInAs } from "./SignInForm";

/** Over the page whose sign-in has ended: what was entered below it is still there, and goes on under the same account only. */
export function SignInAgain() {
  const out = useSignedOut();
  const user = useUser();
  return out && user ? <Again name={user.name} accountId={user.accountId} /> : null;
}

// As it is, past the page's own query: that one keeps whose page it is.
const session = () => ask(api.GET("/api/session"));

function Again({ name, accountId }: { name: string; accountId: string }) {
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="sheet-back !z-30" />
        <Dialog.Content className="guard-question" aria-describedby={undefined} onEscapeKeyDown={(e) => e.preventDefault()}>
          <Dialog.Title className="font-[650] mb-1">Sign in again</Dialog.Title>
          <p className="mb-3">You have been signed out, {name}. What you entered is still here and can be saved after that.</p>
          <SignInForm
            nameLabel="Name to sign in with"
            enter={async (who) => {
              // Tokens belong to the account: the session is asked for before and after.
              await session();
              await signInAs(who);
              return session();
            }}
            onEntered={async (now) => {
              if (now.user?.accountId !== accountId) return location.assign("/");
              queries.setQueryData(sessionQuery.queryKey, now);
              setSignedOut(false);
              await askAgain();
              await sendUnsent();
            }}
          >
            <a className="btn" href="/sign-in">
              Somebody else
            </a>
          </SignInForm>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
