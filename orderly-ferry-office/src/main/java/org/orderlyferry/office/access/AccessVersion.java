package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Database;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/**
 * Which form a file is written in: the oldest that has all types that are needed, so that as many programs as can be open
 * it.
 */
enum AccessVersion {
    /** {@code .mdb}, as since 2002. */
    OLD(Database.FileFormat.V2003),
    /** {@code .accdb}, as since 2010. */
    USUAL(Database.FileFormat.V2010),
    /** With whole numbers of 64 bits, as since 2016. */
    LARGE_NUMBERS(Database.FileFormat.V2016),
    /** With times of seven digits behind the second, as since 2019. */
    EXTENDED_TIMES(Database.FileFormat.V2019);

    private final Database.FileFormat format;

    AccessVersion(Database.FileFormat format) {
        this.format = format;
    }

    /** The version for tables in a file of a name. */
    static AccessVersion of(String name, List<TableDefinition> tables) {
        if (name.toLowerCase(Locale.ROOT).endsWith(".mdb")) {
            return OLD;
        }
        List<LogicalType> types = tables.stream()
                .flatMap(t -> t.columns().stream())
                .map(c -> c.type())
                .toList();
        if (types.stream().anyMatch(AccessTypes::isExtended)) {
            return EXTENDED_TIMES;
        }
        return types.stream().anyMatch(t -> t.name() == TypeName.BIGINT) ? LARGE_NUMBERS : USUAL;
    }

    Database.FileFormat format() {
        return format;
    }

    boolean hasLargeNumbers() {
        return this == LARGE_NUMBERS || this == EXTENDED_TIMES;
    }

    boolean hasExtendedTimes() {
        return this == EXTENDED_TIMES;
    }
}
