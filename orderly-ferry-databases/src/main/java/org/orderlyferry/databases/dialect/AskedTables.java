package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import org.apiguardian.api.API;

/**
 * Counts the tables of a catalogue that are asked for one by one. All together take a small part of what each takes alone, so
 * when that part was asked for it is time to ask for the rest: never twice as much is done as would have been enough.
 */
@API(status = API.Status.INTERNAL)
public final class AskedTables {

    private static final int FEW = 8;

    /** How many, asked for together, take as long as one that is asked for alone; or fewer. */
    private static final int AS_ONE = 10;

    private final Catalogue catalogue;
    private int asked;
    private int all = -1;

    public AskedTables(Catalogue catalogue) {
        this.catalogue = catalogue;
    }

    /** Takes note of one more; whether all had better be asked for. */
    public boolean enough() throws SQLException {
        if (++asked <= FEW) {
            return false;
        }
        if (all < 0) {
            all = catalogue.tables().size();
        }
        return asked > all / AS_ONE;
    }
}
