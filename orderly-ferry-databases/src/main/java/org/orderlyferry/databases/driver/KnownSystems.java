package org.orderlyferry.databases.driver;

import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * The systems of which more is known than their drivers tell, and the types by which a {@link Trial} asks them: their own
 * words, where a driver has several for one code.
 */
final class KnownSystems {

    private static final int LONGEST = 4_000;
    private static final String LENGTH = "length";

    private KnownSystems() {}

    static List<ConnectedSql> systems() {
        return ServiceLoader.load(SystemSql.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(ConnectedSql.class::isInstance)
                .map(ConnectedSql.class::cast)
                .toList();
    }

    static Optional<ConnectedSql> system(String product) {
        return systems().stream().filter(s -> s.product().equals(product)).findFirst();
    }

    static List<DriverType> of(ConnectedSql system) {
        List<DriverType> types = new ArrayList<>();
        add(types, system, LogicalType.DATE, Types.DATE);
        add(types, system, LogicalType.of(TypeName.TIME), Types.TIME);
        add(types, system, LogicalType.of(TypeName.TIMESTAMP), Types.TIMESTAMP);
        add(types, system, LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE), Types.TIMESTAMP_WITH_TIMEZONE);
        add(types, system, LogicalType.DOUBLE, Types.DOUBLE);
        add(types, system, LogicalType.CLOB, Types.CLOB);
        add(types, system, LogicalType.BLOB, Types.BLOB);
        types.add(sized(system, LogicalType.varchar(1), Types.VARCHAR));
        types.add(sized(system, LogicalType.of(TypeName.VARBINARY, 1), Types.VARBINARY));
        return types;
    }

    /** One that the system holds as something else is none of its types. */
    private static void add(List<DriverType> types, ConnectedSql system, LogicalType type, int code) {
        String own = system.types().own(type);
        TypeName back = system.types().logical(own).name();
        if (back == type.name() || type.name() == TypeName.DATE) {
            types.add(new DriverType(own, code, 0, ""));
        }
    }

    private static DriverType sized(ConnectedSql system, LogicalType one, int code) {
        String own = system.types().own(one);
        return new DriverType(own.substring(0, own.indexOf('(')), code, LONGEST, LENGTH);
    }
}
