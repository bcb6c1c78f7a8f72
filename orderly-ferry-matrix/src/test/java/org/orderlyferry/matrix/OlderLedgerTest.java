package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.testkit.servers.TestSystem;

/** What an earlier version had servers reckon can't be asked for again, and says nothing of what others have done. */
class OlderLedgerTest extends CrossingCase {

    @Test
    void aDigestOfAnotherFormIsNotHeldAgainstTheTarget() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(source, "create table bed (id int primary key, soil varchar(9))", "insert into bed values (1, 'a')");
        Path file = draft("older", source, url);
        must(0, "run", file);
        run(source, "update bed set soil = 'b'");
        must(0, "run", file, "--catch-up");

        try (RunLedger ledger = RunLedger.open(lastRun(file))) {
            Map<String, String> facts = new TreeMap<>(
                    ledger.last(Step.PROOF, State.DONE).orElseThrow().facts());
            assertThat(facts.values()).anyMatch(v -> v.contains("server:2:"));
            facts.replaceAll((name, value) -> value.replace("server:2:", "server:"));
            ledger.note(Step.PROOF, State.DONE, facts);
        }
        assertThat(must(2, "undo", file).err())
                .contains("doesn't take the digest of table bed any more", "nobody can tell whether others")
                .doesNotContain("somebody has changed");
    }
}
