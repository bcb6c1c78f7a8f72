package org.orderlyferry.databases.loading;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.sql.SQLException;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.databases.dialect.Deed;

/** A deed as it stands in the ledger: its kind, and its facts as a JSON object. */
record DeedText(String kind, String facts) {

    /** No deed's facts are longer: a table with a name of 64 characters has no more than some thousand others. */
    private static final int LONGEST = 1_000_000;

    private static final ObjectMapper JSON = new ObjectMapper();

    private static final Map<String, Class<? extends Deed>> KINDS = Stream.of(
                    Deed.SchemaMade.class,
                    Deed.TypeMade.class,
                    Deed.TableMade.class,
                    Deed.Renamed.class,
                    Deed.ConstraintRenamed.class,
                    Deed.IndexRenamed.class,
                    Deed.ReferenceAdded.class,
                    Deed.ReferenceDropped.class,
                    Deed.ViewsTouched.class,
                    Deed.TriggerMoved.class,
                    Deed.ChecksOff.class,
                    Deed.CounterBehind.class,
                    Deed.Planned.class,
                    Deed.Settled.class,
                    Deed.KeyBegun.class)
            .collect(Collectors.toMap(Class::getSimpleName, Function.identity()));

    static DeedText of(Deed deed) {
        try {
            return new DeedText(deed.getClass().getSimpleName(), JSON.writeValueAsString(deed));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a deed has no JSON form: " + deed, e);
        }
    }

    /**
     * The deed.
     *
     * @throws SQLException if it is none, so that somebody else must have written it
     */
    Deed deed() throws SQLException {
        Class<? extends Deed> type = KINDS.get(kind);
        if (type == null || facts == null || facts.length() > LONGEST) {
            throw new SQLException("the ledger of an earlier load holds a line that no load writes: " + kind);
        }
        try {
            return JSON.readValue(facts, type);
        } catch (JsonProcessingException e) {
            throw new SQLException("the ledger of an earlier load holds a line that no load writes: " + facts, e);
        }
    }
}
