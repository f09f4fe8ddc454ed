using System.ComponentModel.DataAnnotations;
using FirstCoat.Core.Kernel;
using FirstCoat.Server.Web;
using FirstCoat.Store.Photos;
using Microsoft.AspNetCore.Mvc;

namespace FirstCoat.Server.Rooms;

/// <summary>The photos room.</summary>
public static class PhotosEndpoints
{
    public sealed record PhotoBody(
        [property: StringLength(200)] string Caption,
        Stage? Stage,
        [property: StringLength(40)] string? Panel,
        Guid? OperationId,
        bool ClientMaySee,
        uint? Version
    );

    public sealed record PhotoView(
        Guid Id,
        string Hash,
        string ThumbHash,
        int Width,
        int Height,
        Instant TakenAt,
        string By,
        string Caption,
        Stage? Stage,
        string? Panel,
        Guid? OperationId,
        bool ClientMaySee,
        uint Version
    );

    public static void MapPhotos(this RouteGroupBuilder api)
    {
        api.MapGet("/builds/{id:guid}/photos", async (Guid id, ShopDb db, CancellationToken cancel) =>
                (
                    await db
                        .Photos.AsNoTracking()
                        .Where(p => p.BuildId == id)
                        .OrderByDescending(p => p.TakenAt)
                        .ThenByDescending(p => p.Seq)
                        .ToListAsync(cancel)
                )
                    .Select(p => new PhotoView(
                        p.Id,
                        p.Hash,
                        p.ThumbHash,
                        p.Width,
                        p.Height,
                        p.TakenAt,
                        p.By,
                        p.Caption,
                        p.Stage,
                        p.Panel,
                        p.OperationId,
                        p.ClientMaySee,
                        p.Version
                    ))
                    .ToList()
            )
            .RequireAuthorization(Policies.Anyone)
            .OfKnownBuild()
            .WithName("listPhotos");
        api.MapPost(
                "/builds/{id:guid}/photos/{photoId:guid}",
                async (
                    Guid id,
                    Guid photoId,
                    IFormFile file,
                    [FromForm] string? caption,
                    [FromForm] string? stage,
                    [FromForm] string? panel,
                    [FromForm] Guid? operationId,
                    PhotosDesk desk,
                    CancellationToken cancel
                ) =>
                {
                    await using var upload = file.OpenReadStream();
                    return Saved.From(
                        await desk.Add(
                            id,
                            photoId,
                            upload,
                            file.Length,
                            new(caption ?? "", Named.Choice<Stage>(stage, "stage"), panel, operationId, false),
                            cancel
                        )
                    );
                }
            )
            .RequireAuthorization(Policies.Anyone)
            .DisableAntiforgery()
            .WithName("addPhoto");
        api.MapPut("/photos/{id:guid}", async (Guid id, PhotoBody b, PhotosDesk desk, CancellationToken cancel) =>
                Saved.From(
                    await desk.Describe(
                        id,
                        new(b.Caption, b.Stage, b.Panel, b.OperationId, b.ClientMaySee),
                        b.Version,
                        cancel
                    )
                )
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("describePhoto");
        api.MapGet("/photos/file/{hash}", (string hash, PhotoFiles files, HttpContext context) =>
                Send(files, hash, context)
            )
            .RequireAuthorization(Policies.Anyone)
            .WithName("getPhotoFile");
    }

    /// <summary>Sends a stored picture; its name is its content, so it can be kept for good.</summary>
    internal static IResult Send(PhotoFiles files, string hash, HttpContext context)
    {
        if (files.Open(hash) is not { } stream)
        {
            return Results.Problem(
                "There is no such picture.",
                statusCode: 404,
                extensions: new Dictionary<string, object?> { ["field"] = "hash" }
            );
        }

        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.Stream(stream, "image/webp");
    }
}
