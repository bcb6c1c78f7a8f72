package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.rows;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.work.Load;

/** More tables than the server can have locks for at once: that is found out before the first record moves. */
class LocksAtOnceTest {

    private static final int KEYS = 40;
    private static final int TOO_MANY = 400;

    private static ListedPlace beds(int count) {
        ListedPlace place = new ListedPlace();
        for (int i = 0; i < count; i++) {
            TableDefinition.Builder bed = TableDefinition.named("bed_" + i);
            for (int k = 0; k < KEYS; k++) {
                bed.column(ColumnDefinition.of("c" + k, LogicalType.INTEGER));
                bed.unique(new Key("", List.of("c" + k)));
            }
            place = place.with(bed.build(), List.of());
        }
        return place;
    }

    @Test
    void whatHasNoRoomIsRefusedBeforeAndWhatHasRoomGoesIn() throws Exception {
        try (LocalPostgres server = LocalPostgres.start("max_locks_per_transaction=10", "max_connections=20")) {
            String url = server.url("postgres");
            try (TargetPlace target = Places.openTarget(url)) {
                assertThatThrownBy(() -> Load.from(beds(TOO_MANY)).into(target))
                        .isInstanceOf(UsageException.class)
                        .hasMessageContaining("400 tables take their places in one transaction")
                        .hasMessageContaining("about 16,400 locks")
                        .hasMessageContaining("max_locks_per_transaction is 10, and 821 would do");
            }
            String ours = "select relname from pg_class where relname like 'bed%' or relname like 'orderly%'";
            assertThat(rows(url, ours)).isEmpty();
            assertThat(rows(url, "select count(*) from pg_locks where locktype = 'advisory'"))
                    .containsExactly("0");
            // more than it is set to, and less than what it has
            try (TargetPlace target = Places.openTarget(url)) {
                Load.from(beds(6)).into(target);
            }
            assertThat(rows(url, "select count(*) from pg_class where relkind = 'r' and relname like 'bed%'"))
                    .containsExactly("6");
        }
    }
}
