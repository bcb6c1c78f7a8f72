package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.Driver;
import java.sql.SQLException;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.ConnectedSql;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.dialect.Writing;

/** A system of which more is known than its driver tells: that goes first, and all else is as the driver says. */
final class KnownDialect extends DriverDialect {

    private final ConnectedSql known;

    KnownDialect(Optional<Driver> driver, ConnectedSql known, DriverTraits traits, Trial trial) {
        super(driver, traits, trial);
        this.known = known;
    }

    @Override
    public boolean isDenied(SQLException error) {
        return known.isDenied(error) || super.isDenied(error);
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return known.catalogue(connection, traits().schema());
    }

    @Override
    public String quote(String name) {
        return known.quote(name);
    }

    @Override
    public TypeMapping types() {
        return known.types();
    }

    @Override
    public Reading reading() {
        return new KnownReading(this, known);
    }

    @Override
    public Writing writing() {
        return new KnownWriting(this, known);
    }
}
