package org.orderlyferry.databases.check;

import java.util.function.Function;
import org.orderlyferry.databases.sql.Expression;

/** A part of a check, made ready to be worked out for many records. Safe for use by several threads. */
@FunctionalInterface
interface Part {

    /** Of which nothing can be told. */
    Part OPEN = record -> Told.OPEN;

    /** What it comes to for a record with these values. */
    Told of(Function<Expression.Column, Told> record);

    /** One that comes to the same for each record. */
    record Constant(Told told) implements Part {
        @Override
        public Told of(Function<Expression.Column, Told> record) {
            return told;
        }
    }
}
