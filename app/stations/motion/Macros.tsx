import { Plus } from "lucide-react";
import { addUnit, moveUnit, newUnit, renameUnit } from "../../../core/instrument";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { unitCommands } from "../../state/unit-commands";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { MenuButton } from "../../widgets/CommandMenu";
import { ParamControl, Section } from "../../widgets/ParamControl";
import { SortableList } from "../../widgets/SortableList";
import { Well } from "../../widgets/Well";

/** Adds a macro. */
export function newMacro(): void {
  const macros = session.instrument?.macros ?? [];
  const unit = newUnit("macro", freshId(new Set(macros.map((m) => m.id))), `Macro ${macros.length + 1}`);
  session.commit(addUnit("macros", unit));
}

/** The macros in their order: each a dial for whoever plays. */
export function Macros() {
  const macros = useInstrument((i) => i.macros);
  return (
    <>
      <div className="mb-2 flex items-center justify-between">
        <h2 className="font-display font-semibold text-l">Macros</h2>
        <Button onClick={newMacro}>
          <Plus size={13} aria-hidden /> Add
        </Button>
      </div>
      <p className="mb-3 text-ink-soft">
        One dial for whoever plays it. Route it to as many parameters as you like, and put it on the face.
      </p>
      <SortableList
        label="Macros in their order"
        ids={macros.map((m) => m.id)}
        nameOf={(id) => macros.find((m) => m.id === id)?.name ?? ""}
        onMove={(from, to) => session.commit(moveUnit("macros", macros[from]?.id ?? "", to))}
      >
        {(id, grip) => {
          const macro = macros.find((m) => m.id === id);
          return (
            macro && (
              <Section
                title={<span className="flex items-center gap-1">{grip} Name</span>}
                aside={
                  <MenuButton
                    label={`What can be done with ${macro.name}`}
                    commands={unitCommands("macros", macro.id)}
                  />
                }
              >
                <Well
                  label="Name of the macro"
                  text={macro.name}
                  width={236}
                  onType={(name) => {
                    session.commit(renameUnit(`macros/${macro.id}`, name.trim() || "Macro"));
                    return true;
                  }}
                />
                <ParamControl address={`macros/${macro.id}/value`} />
              </Section>
            )
          );
        }}
      </SortableList>
    </>
  );
}
