package org.orderlyferry.documents.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.math.BigInteger;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.PrivateKey;
import java.security.Signature;
import java.security.spec.RSAPrivateCrtKeySpec;
import java.time.Instant;
import java.util.Base64;
import java.util.UUID;
import org.orderlyferry.problem.UsageException;

/**
 * A service account's key, with which it asks for tokens: a JSON object with {@code issuer}, {@code token_endpoint} (RFC 8414)
 * and {@code key}, a private RSA key as a JWK (RFC 7517). No message says anything of what it holds.
 */
final class KeyFile {

    private static final int LARGEST = 64 * 1024;
    private static final int SECONDS = 300;
    private static final ObjectMapper JSON = JsonMapper.builder().build();

    private final String issuer;
    private final URI tokenEndpoint;
    private final PrivateKey key;

    private KeyFile(String issuer, URI tokenEndpoint, PrivateKey key) {
        this.issuer = issuer;
        this.tokenEndpoint = tokenEndpoint;
        this.key = key;
    }

    /**
     * Reads a key file.
     *
     * @throws UsageException if it can't be read, or is none; what it holds isn't said
     */
    static KeyFile read(Path file) {
        JsonNode root;
        try {
            if (Files.size(file) > LARGEST) {
                throw new UsageException("the key file " + file + " is too large to be one");
            }
            root = JSON.readTree(Files.readAllBytes(file));
        } catch (JsonProcessingException e) {
            // its message would show a part of the file
            throw new UsageException("the key file " + file + " isn't JSON");
        } catch (IOException e) {
            throw new UsageException("the key file " + file + " can't be read: "
                    + e.getClass().getSimpleName().replaceFirst("Exception$", ""));
        }
        JsonNode key = root.path("key");
        String issuer = root.path("issuer").asText();
        String endpoint = root.path("token_endpoint").asText();
        if (issuer.isEmpty() || !endpoint.matches("https?://\\S+")) {
            throw new UsageException("the key file " + file + " lacks issuer or token_endpoint");
        }
        try {
            return new KeyFile(
                    issuer,
                    URI.create(endpoint),
                    KeyFactory.getInstance("RSA")
                            .generatePrivate(new RSAPrivateCrtKeySpec(
                                    number(key, "n"),
                                    number(key, "e"),
                                    number(key, "d"),
                                    number(key, "p"),
                                    number(key, "q"),
                                    number(key, "dp"),
                                    number(key, "dq"),
                                    number(key, "qi"))));
        } catch (GeneralSecurityException | IllegalArgumentException e) {
            throw new UsageException("the key file " + file + " has no private RSA key as a JWK (RFC 7517) in key");
        }
    }

    private static BigInteger number(JsonNode key, String name) {
        return new BigInteger(1, Base64.getUrlDecoder().decode(key.path(name).asText()));
    }

    URI tokenEndpoint() {
        return tokenEndpoint;
    }

    /** A new assertion that the account is who it is (RFC 7523), signed with RS256; good for five minutes, and once. */
    String assertion() {
        long now = Instant.now().getEpochSecond();
        String header =
                JSON.createObjectNode().put("alg", "RS256").put("typ", "JWT").toString();
        String claims = JSON.createObjectNode()
                .put("iss", issuer)
                .put("sub", issuer)
                .put("aud", tokenEndpoint.toString())
                .put("iat", now)
                .put("exp", now + SECONDS)
                .put("jti", UUID.randomUUID().toString())
                .toString();
        String signed = encoded(header.getBytes(StandardCharsets.UTF_8)) + "."
                + encoded(claims.getBytes(StandardCharsets.UTF_8));
        try {
            Signature signature = Signature.getInstance("SHA256withRSA");
            signature.initSign(key);
            signature.update(signed.getBytes(StandardCharsets.US_ASCII));
            return signed + "." + encoded(signature.sign());
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("this Java can't sign with RS256", e);
        }
    }

    private static String encoded(byte[] bytes) {
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }
}
