package org.orderlyferry.documents.simulated;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.PublicKey;
import java.security.SecureRandom;
import java.security.Signature;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;

/**
 * Gives tokens to whoever holds a key: OAuth 2.0 with a JWT as its grant (RFC 7523), signed with RS256 (RFC 7518). Safe for use by
 * several threads.
 */
final class SignIn {

    private static final String GRANT = "urn:ietf:params:oauth:grant-type:jwt-bearer";
    private static final Duration LONGEST = Duration.ofMinutes(10);
    private static final ObjectMapper JSON = JsonMapper.builder().build();

    /** Who may sign in, and for which project. */
    private record Account(String project, PublicKey key) {}

    private record Token(String project, Instant until) {}

    private final Map<String, Account> accounts = new ConcurrentHashMap<>();
    private final Map<String, Token> tokens = new ConcurrentHashMap<>();
    private final Map<String, Instant> used = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();

    void register(String issuer, String project, PublicKey key) {
        accounts.put(issuer, new Account(project, key));
    }

    /** Answers a request for a token. */
    Answer token(String form, String audience, int seconds) {
        Map<String, String> fields = Arrays.stream(form.split("&"))
                .map(f -> f.split("=", 2))
                .filter(f -> f.length == 2)
                .collect(Collectors.toMap(f -> decoded(f[0]), f -> decoded(f[1]), (a, b) -> b));
        if (!GRANT.equals(fields.get("grant_type"))) {
            return error("unsupported_grant_type");
        }
        Optional<String> project = project(fields.getOrDefault("assertion", ""), audience);
        if (project.isEmpty()) {
            return error("invalid_grant");
        }
        byte[] bytes = new byte[32];
        random.nextBytes(bytes);
        String token = HexFormat.of().formatHex(bytes);
        tokens.put(token, new Token(project.get(), Instant.now().plusSeconds(seconds)));
        return Answer.ok(JSON.createObjectNode()
                .put("access_token", token)
                .put("token_type", "Bearer")
                .put("expires_in", seconds));
    }

    /** As RFC 6749, section 5.2 has it. */
    private static Answer error(String code) {
        return new Answer(400, Optional.of(JSON.createObjectNode().put("error", code)), -1);
    }

    private static String decoded(String text) {
        return URLDecoder.decode(text, StandardCharsets.UTF_8);
    }

    /** The project of whoever has signed an assertion; nothing where something is wrong with it. */
    private Optional<String> project(String assertion, String audience) {
        String[] parts = assertion.split("\\.", -1);
        if (parts.length != 3) {
            return Optional.empty();
        }
        try {
            JsonNode header = JSON.readTree(Base64.getUrlDecoder().decode(parts[0]));
            JsonNode claims = JSON.readTree(Base64.getUrlDecoder().decode(parts[1]));
            Account account = accounts.get(claims.path("iss").asText());
            if (account == null || !"RS256".equals(header.path("alg").asText())) {
                return Optional.empty();
            }
            Signature signature = Signature.getInstance("SHA256withRSA");
            signature.initVerify(account.key());
            signature.update((parts[0] + "." + parts[1]).getBytes(StandardCharsets.US_ASCII));
            boolean signed = signature.verify(Base64.getUrlDecoder().decode(parts[2]));
            return signed && isGood(claims, audience) ? Optional.of(account.project()) : Optional.empty();
        } catch (IOException | GeneralSecurityException | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private boolean isGood(JsonNode claims, String audience) {
        Instant now = Instant.now();
        Instant until = Instant.ofEpochSecond(claims.path("exp").asLong());
        used.values().removeIf(end -> end.isBefore(now));
        return claims.path("aud").asText().equals(audience)
                && claims.path("sub").asText().equals(claims.path("iss").asText())
                && until.isAfter(now)
                && until.isBefore(now.plus(LONGEST))
                // an assertion is good once
                && !claims.path("jti").asText().isEmpty()
                && used.putIfAbsent(claims.path("jti").asText(), until) == null;
    }

    /** Whether a token lets somebody at a project. */
    Optional<String> project(String authorization) {
        if (authorization == null || !authorization.startsWith("Bearer ")) {
            return Optional.empty();
        }
        return Optional.ofNullable(tokens.get(authorization.substring("Bearer ".length())))
                .filter(t -> t.until().isAfter(Instant.now()))
                .map(Token::project);
    }
}
