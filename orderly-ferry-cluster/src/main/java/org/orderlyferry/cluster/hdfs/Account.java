package org.orderlyferry.cluster.hdfs;

import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Who asks: a name, or a delegation token out of the environment, which stands in no address and is never shown.
 *
 * @param parameters what says so in each request to a name node
 */
record Account(Map<String, String> parameters) {

    /** Has a delegation token, for clusters that ask for one. */
    static final String TOKEN = "FERRY_HDFS_TOKEN";

    /** The name that Hadoop's own tools take, where the address has none. */
    static final String USER = "HADOOP_USER_NAME";

    /**
     * An account.
     *
     * @param user the name in the address; empty where it has none
     * @param environment gives variables, null for those that aren't set
     */
    static Account of(String user, UnaryOperator<String> environment) {
        String token = environment.apply(TOKEN);
        if (token != null && !token.isBlank()) {
            return new Account(Map.of("delegation", token.strip()));
        }
        String named = environment.apply(USER);
        String other = named == null || named.isBlank() ? System.getProperty("user.name", "") : named.strip();
        return new Account(Map.of("user.name", user.isEmpty() ? other : user));
    }

    @Override
    public String toString() {
        return parameters.containsKey("delegation") ? "with a token" : parameters.toString();
    }
}
