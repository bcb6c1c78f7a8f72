package org.orderlyferry.databases.sqlserver;

import org.orderlyferry.databases.dialect.Defining;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dialect.TypeMapping;

/** The SQL of SQL Server, from version 2016 on: what its scripts hold. It is connected to by its driver alone. */
public final class SqlServerSql implements SystemSql {

    static final String SYSTEM = "SQL Server";

    private static final NamingRules NAMING = new NamingRules(
            128,
            NamingRules.Unit.CHARACTERS,
            false,
            true,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            false,
            // its names are counted in units of UTF-16, and its shells take a line in a name for one of theirs
            c -> c >= ' ' && c <= 0xFFFF && c != 0x7F,
            SqlServerScripting.VARIABLE);

    private final SqlServerDefining defining = new SqlServerDefining(this);
    private final SqlServerScripting scripting = new SqlServerScripting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String quote(String name) {
        return "[" + name.replace("]", "]]") + "]";
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return SqlServerTypes.MAPPING;
    }

    @Override
    public Defining defining() {
        return defining;
    }

    @Override
    public Scripting scripting() {
        return scripting;
    }
}
