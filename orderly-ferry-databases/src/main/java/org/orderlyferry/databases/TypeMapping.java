package org.orderlyferry.databases;

import java.util.List;
import org.orderlyferry.model.LogicalType;

/** A system's types as logical types, and back. */
public interface TypeMapping {

    /** The logical type of one of the system's own, for example {@code numeric(12,2)}. */
    LogicalType logical(String own);

    /** The system's own type that holds a logical one, as it stands in CREATE TABLE. */
    String own(LogicalType type);

    /** One of each type that the system has, as its catalogue writes it; for the reference page and its test. */
    List<String> examples();
}
