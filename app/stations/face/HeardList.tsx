import { useEffect, useState } from "react";
import { session } from "../../state/session";

/** What a screen reader says of something that can be operated: its role, its name, its value. */
interface Said {
  readonly role: string;
  readonly name: string;
  readonly value: string;
}

const OPERATED =
  "button, select, input, [role=slider], [role=switch], [role=radio], [role=meter], [role=application], [role=img], [role=log], output";
const ROLES: Readonly<Record<string, string>> = {
  select: "list",
  input: "field",
  output: "text",
  application: "keys",
  img: "picture",
};

/** Names of what labels an element, as its attributes have it. */
function nameOf(element: Element): string {
  const label = element.getAttribute("aria-label");
  if (label) return label;
  const by = element.getAttribute("aria-labelledby");
  const other = by ? document.getElementById(by)?.textContent : null;
  return (other ?? element.textContent ?? "").trim().replace(/\s+/g, " ");
}

function saidOf(element: Element): Said {
  const tag = element.tagName.toLowerCase();
  const role = element.getAttribute("role") ?? (tag === "button" ? "button" : tag);
  const checked = element.getAttribute("aria-checked") ?? element.getAttribute("aria-pressed");
  const off = element.getAttribute("aria-disabled") === "true" || (element as HTMLButtonElement).disabled === true;
  const chosen = element instanceof HTMLSelectElement ? (element.selectedOptions[0]?.textContent ?? "") : "";
  const value = [
    element.getAttribute("aria-valuetext") ?? chosen,
    checked === null ? "" : checked === "true" ? "on" : "off",
    off ? "can’t be used now" : "",
  ].filter((part) => part !== "");
  return { role: ROLES[role] ?? role, name: nameOf(element).slice(0, 80), value: value.join(", ") };
}

const readAll = (page: HTMLElement): readonly Said[] =>
  [...page.querySelectorAll(OPERATED)].filter((e) => !e.closest("[aria-hidden=true]")).map(saidOf);

/** Milliseconds of rest after which the page is read anew; lines that are shown at the most. */
const REST = 350;
const MOST = 300;

/** What a screen reader says of the page, in the order in which it meets it: as it is now. */
export function HeardList({ page }: { page: HTMLElement | null }) {
  const [said, setSaid] = useState<readonly Said[]>([]);
  useEffect(() => {
    if (!page) return;
    let timer: ReturnType<typeof setTimeout> | null = null;
    const look = () => {
      timer = null;
      setSaid(readAll(page));
    };
    // Once nothing has changed for a moment: while something is turned there is better to do.
    const later = () => {
      if (timer !== null) clearTimeout(timer);
      timer = setTimeout(look, REST);
    };
    look();
    const watching = new MutationObserver(later);
    watching.observe(page, { subtree: true, childList: true, attributes: true });
    const unsubscribe = session.store.subscribe(later);
    return () => {
      watching.disconnect();
      unsubscribe();
      if (timer !== null) clearTimeout(timer);
    };
  }, [page]);
  return (
    <>
      <h3 className="mt-4 mb-1 text-ink-soft text-s">What a screen reader says, in this order</h3>
      <ol aria-label="What a screen reader says" className="min-h-0 flex-1 overflow-auto text-s">
        {said.slice(0, MOST).map(({ role, name, value }, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: it is their order that counts
          <li key={n} className="border-rule border-b py-1">
            {name === "" ? <span className="text-ochre">without a name</span> : name}
            <span className="text-ink-soft"> · {role}</span>
            {value !== "" && <span className="num text-ink-soft"> · {value}</span>}
          </li>
        ))}
      </ol>
      {said.length > MOST && <p className="text-ink-soft text-s">{said.length - MOST} more.</p>}
    </>
  );
}
