package org.orderlyferry.databases.dialect;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.LogicalType;

/** A system's types as logical types, and back. */
public interface TypeMapping {

    /** The logical type of one of the system's own, for example {@code numeric(12,2)}. */
    LogicalType logical(String own);

    /** The system's own type that holds a logical one, as it stands in CREATE TABLE. */
    String own(LogicalType type);

    /** One of each type that the system has, as its catalogue writes it; for the reference page and its test. */
    List<String> examples();

    /** Further types that the system has, whose values are carried as text. */
    default List<String> others() {
        return List.of();
    }

    /**
     * One of the system's own types, as CREATE TABLE may have it. What a file says of a type is no more than a word for
     * one that the system has.
     *
     * @return nothing where it is none that is known here
     */
    default Optional<String> held(String own) {
        return OwnType.held(own, examples()).or(() -> OwnType.held(own, others()));
    }
}
