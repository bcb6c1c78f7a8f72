package org.orderlyferry.databases.oracle;

import org.orderlyferry.databases.dialect.Defining;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.problem.UsageException;

/** The SQL of Oracle, from version 12.2 on: what its scripts hold. It is connected to by its driver alone. */
public final class OracleSql implements SystemSql {

    static final String SYSTEM = "Oracle";

    /** Nothing stands for a quote inside of quotes there. */
    private static final NamingRules NAMING = new NamingRules(
            128,
            NamingRules.Unit.BYTES,
            true,
            true,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            false,
            c -> c >= ' ' && c != '"' && c != 0x7F);

    private final OracleDefining defining = new OracleDefining(this);
    private final OracleScripting scripting = new OracleScripting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    /**
     * A name in quotes.
     *
     * @throws UsageException if it holds a quote, for which its SQL has no way
     */
    @Override
    public String quote(String name) {
        if (name.indexOf('"') >= 0) {
            throw new UsageException("Oracle has no names with a quote in them, as in " + name);
        }
        return '"' + name + '"';
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return OracleTypes.MAPPING;
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
