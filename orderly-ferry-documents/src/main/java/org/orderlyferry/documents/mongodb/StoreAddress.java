package org.orderlyferry.documents.mongodb;

import com.mongodb.ConnectionString;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;

/**
 * An address of a database of documents: a MongoDB connection string, with what is told of the form of its tables among the
 * parameters. What isn't known among these is refused, where the driver would pass it over.
 *
 * @param connection for the driver alone, since it holds the password
 * @param shown free of secrets
 * @param form how documents stand in tables
 * @param sample of how many documents fields are found out; 0 for all
 * @param writesNulls whether a null is a field with null, rather than no field
 * @param leftOut fields that aren't read
 * @param nested tables that become lists in the documents to which they refer
 * @param oneMoment whether all is to be read as of one moment where the server can do so
 */
record StoreAddress(
        ConnectionString connection,
        String shown,
        Form form,
        int sample,
        boolean writesNulls,
        Set<String> leftOut,
        Set<String> nested,
        boolean oneMoment) {

    private static final String FORM = "form";
    private static final String SAMPLE = "sample";
    private static final String NULLS = "nulls";
    private static final String LEAVE_OUT = "leaveOut";
    private static final String NEST = "nest";
    private static final String MOMENT = "moment";
    private static final List<String> OURS = List.of(FORM, SAMPLE, NULLS, LEAVE_OUT, NEST, MOMENT);

    /** The options of connection strings (MongoDB specifications, URI Options), in lower case. */
    private static final Set<String> THEIRS = Set.of(
            "appname",
            "authmechanism",
            "authmechanismproperties",
            "authsource",
            "compressors",
            "connecttimeoutms",
            "directconnection",
            "heartbeatfrequencyms",
            "journal",
            "loadbalanced",
            "localthresholdms",
            "maxconnecting",
            "maxidletimems",
            "maxlifetimems",
            "maxpoolsize",
            "maxstalenessseconds",
            "minpoolsize",
            "proxyhost",
            "proxypassword",
            "proxyport",
            "proxyusername",
            "readconcernlevel",
            "readpreference",
            "readpreferencetags",
            "replicaset",
            "retryreads",
            "retrywrites",
            "safe",
            "servermonitoringmode",
            "serverselectiontimeoutms",
            "sockettimeoutms",
            "srvmaxhosts",
            "srvservicename",
            "ssl",
            "sslinvalidhostnameallowed",
            "timeoutms",
            "tls",
            "tlsallowinvalidhostnames",
            "tlsinsecure",
            "uuidrepresentation",
            "w",
            "waitqueuetimeoutms",
            "wtimeoutms",
            "zlibcompressionlevel");

    StoreAddress {
        leftOut = Set.copyOf(leftOut);
        nested = Set.copyOf(nested);
    }

    /**
     * Takes an address apart.
     *
     * @throws UsageException if it isn't one
     */
    static StoreAddress of(PlaceAddress address, Secrets secrets) {
        String shown = address.toString();
        String opened = address.opened(secrets);
        int query = opened.indexOf('?');
        String bare = query < 0 ? opened : opened.substring(0, query);
        Map<String, String> ours = new LinkedHashMap<>();
        StringBuilder theirs = new StringBuilder();
        for (String parameter : query < 0
                ? List.<String>of()
                : Arrays.asList(opened.substring(query + 1).split("[&;]"))) {
            int equals = parameter.indexOf('=');
            String name = equals < 0 ? parameter : parameter.substring(0, equals);
            if (OURS.contains(name)) {
                ours.put(name, equals < 0 ? "" : decoded(parameter.substring(equals + 1)));
            } else if (THEIRS.contains(name.toLowerCase(Locale.ROOT))) {
                theirs.append(theirs.isEmpty() ? "?" : "&").append(parameter);
            } else if (!parameter.isEmpty()) {
                throw new UsageException("an address of documents has no parameter " + name + "; of ours there are "
                        + String.join(", ", OURS) + ", and those of MongoDB's connection strings");
            }
        }
        // options stand behind a slash, also where no database is named
        boolean slash = bare.indexOf('/', bare.indexOf("//") + 2) >= 0;
        return new StoreAddress(
                connection(bare + (slash || theirs.isEmpty() ? "" : "/") + theirs, shown, secrets),
                shown,
                choice(ours, FORM, Form.FIELDS, Form.values()),
                count(ours),
                choice(ours, NULLS, Nulls.WRITTEN, Nulls.values()) == Nulls.WRITTEN,
                names(ours, LEAVE_OUT),
                names(ours, NEST),
                choice(ours, MOMENT, Moment.ONE, Moment.values()) == Moment.ONE);
    }

    private enum Nulls {
        WRITTEN,
        ABSENT
    }

    private enum Moment {
        ONE,
        EACH
    }

    /** The same, of which fields are found out from all documents. */
    StoreAddress ofAll() {
        return new StoreAddress(connection, shown, form, 0, writesNulls, leftOut, nested, oneMoment);
    }

    /** The same, into which every table is loaded as documents of its own. */
    StoreAddress ofTables() {
        return new StoreAddress(connection, shown, form, sample, writesNulls, leftOut, Set.of(), oneMoment);
    }

    /** Which database; empty where none is named. */
    Optional<String> database() {
        return Optional.ofNullable(connection.getDatabase());
    }

    private static ConnectionString connection(String text, String shown, Secrets secrets) {
        try {
            return new ConnectionString(text);
        } catch (IllegalArgumentException e) {
            String said = PlaceAddress.masked(secrets.strikeOut(String.valueOf(e.getMessage())));
            throw new UsageException(shown + " is no address of documents: " + said);
        }
    }

    private static String decoded(String value) {
        try {
            return URLDecoder.decode(value, StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            throw new UsageException("not a value of an address: " + value, e);
        }
    }

    private static <E extends Enum<E>> E choice(Map<String, String> ours, String name, E otherwise, E[] all) {
        String told = ours.get(name);
        if (told == null) {
            return otherwise;
        }
        for (E one : all) {
            if (one.name().equalsIgnoreCase(told)) {
                return one;
            }
        }
        throw new UsageException("the parameter " + name + " of an address of documents is one of "
                + Arrays.toString(all).toLowerCase(Locale.ROOT) + ", not '" + told + "'");
    }

    private static int count(Map<String, String> ours) {
        String told = ours.getOrDefault(SAMPLE, "0");
        try {
            int count = Integer.parseInt(told);
            if (count >= 0) {
                return count;
            }
        } catch (NumberFormatException e) {
            // said below
        }
        throw new UsageException(
                "the parameter " + SAMPLE + " of an address of documents is a count, not '" + told + "'");
    }

    private static Set<String> names(Map<String, String> ours, String name) {
        Set<String> names = new TreeSet<>();
        for (String one : ours.getOrDefault(name, "").split(",")) {
            if (!one.isEmpty()) {
                names.add(one);
            }
        }
        return names;
    }
}
