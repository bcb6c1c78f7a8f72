package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableName;

/**
 * What goes or changes with records that go, in the words of ISO/IEC 9075-2's referential actions, where the system isn't
 * looking after references. It goes by what refers to nothing, so nothing may do so before.
 */
final class Following {

    private final Session session;
    private final List<References.Reference> followers;

    private Following(Session session, List<References.Reference> followers) {
        this.session = session;
        this.followers = followers;
    }

    /**
     * For records that go while others are merged.
     *
     * @param references what refers to them, counted
     * @return empty where it can't be done so: records refer to nothing already, or a column would get its default, which some
     *     systems can't be told to give
     */
    static Optional<Following> of(Session session, References references) {
        List<References.Reference> followers = references.followers();
        boolean can = followers.stream()
                .noneMatch(r -> r.key().onDelete() == ReferentialAction.SET_DEFAULT || references.isBroken(r));
        return can ? Optional.of(new Following(session, followers)) : Optional.empty();
    }

    /** Has it go or change, as part of the session's transaction. */
    void run() throws SQLException {
        long changed;
        do {
            changed = 0;
            for (References.Reference reference : followers) {
                changed += session.update(follow(reference.of(), reference.key()));
            }
        } while (changed > 0);
    }

    private String follow(TableName table, ForeignKey key) {
        String name = session.dialect().quote(table);
        String where = new BrokenRule(session).whereMissing(table, key);
        return key.onDelete() == ReferentialAction.CASCADE
                ? "DELETE FROM " + name + where
                : "UPDATE " + name + " SET "
                        + key.columns().stream()
                                .map(c -> session.dialect().quote(c) + " = NULL")
                                .collect(Collectors.joining(", "))
                        + where;
    }
}
